import { defineMove } from '../define'
import { sinTurn } from '../../transitions/maths'

/** A wave runs along the words. */
export const ripple = defineMove({
  id: 'ripple',
  name: 'Ripple',
  hint: 'A wave runs along the words.',
  use: 'stay',
  at: (t, { index }) => ({ y: 0.16 * sinTurn(t - index * 0.09) }),
})
