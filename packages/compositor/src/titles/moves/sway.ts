import { defineMove } from '../define'
import { sinTurn } from '../../transitions/maths'

/** From side to side. */
export const sway = defineMove({
  id: 'sway',
  name: 'Sway',
  hint: 'From side to side.',
  use: 'stay',
  at: (t) => ({ x: 0.1 * sinTurn(t) }),
})
