import { defineMove } from '../define'
import { sinTurn, cosTurn } from '../../transitions/maths'

/** Winds in along a spiral. */
export const curl = defineMove({
  id: 'curl',
  name: 'Curl in',
  hint: 'Winds in along a spiral.',
  use: 'pass',
  at: (t) => ({ x: sinTurn(t) * 2.2 * (1 - t), y: -cosTurn(t) * 2.2 * (1 - t), size: 0.4 + 0.6 * t, opacity: t }),
})
