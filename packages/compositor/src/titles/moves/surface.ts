import { defineMove } from '../define'
import { sinTurn, smooth } from '../../transitions/maths'

/** Comes up through water, swaying. */
export const surface = defineMove({
  id: 'surface',
  name: 'Surface',
  hint: 'Comes up through water, swaying.',
  use: 'pass',
  at: (t) => ({ y: (1 - smooth(t)) * 1.1, x: sinTurn(t * 1.5) * 0.25 * (1 - t), opacity: smooth(t) }),
})
