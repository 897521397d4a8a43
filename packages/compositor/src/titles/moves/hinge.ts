import { defineMove } from '../define'
import { cosTurn, part } from '../../transitions/maths'

/** Swings down and comes to rest. */
export const hinge = defineMove({
  id: 'hinge',
  name: 'Hinge',
  hint: 'Swings down and comes to rest.',
  use: 'pass',
  at: (t) => ({ turn: (1 - t) * 70 * cosTurn(t * 1.25), y: (1 - t) * -0.3, opacity: part(t, 0, 0.3) }),
})
