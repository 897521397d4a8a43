import { defineMove } from '../define'
import { part } from '../../transitions/maths'

/** A beat, again and again. */
export const pulse = defineMove({
  id: 'pulse',
  name: 'Pulse',
  hint: 'A beat, again and again.',
  use: 'stay',
  at: (t) => ({ size: 1 + 0.12 * (1 - part(t % 1, 0, 0.35)) }),
})
