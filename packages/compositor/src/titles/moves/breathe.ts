import { defineMove } from '../define'
import { sinTurn } from '../../transitions/maths'

/** Grows and shrinks slowly. */
export const breathe = defineMove({
  id: 'breathe',
  name: 'Breathe',
  hint: 'Grows and shrinks slowly.',
  use: 'stay',
  at: (t) => ({ size: 1 + 0.04 * sinTurn(t) }),
})
