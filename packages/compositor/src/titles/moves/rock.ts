import { defineMove } from '../define'
import { sinTurn } from '../../transitions/maths'

/** Leans to and fro. */
export const rock = defineMove({
  id: 'rock',
  name: 'Rock',
  hint: 'Leans to and fro.',
  use: 'stay',
  at: (t, { index }) => ({ turn: 4 * sinTurn(t + index * 0.03) }),
})
