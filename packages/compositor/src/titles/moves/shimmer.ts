import { defineMove } from '../define'
import { cosTurn } from '../../transitions/maths'

/** Light runs along the words. */
export const shimmer = defineMove({
  id: 'shimmer',
  name: 'Shimmer',
  hint: 'Light runs along the words.',
  use: 'stay',
  at: (t, { index }) => ({ opacity: 0.62 + 0.38 * cosTurn(t - index * 0.07) }),
})
