import { defineMove } from '../define'
import { hash } from '../../transitions/maths'

/** Like a lantern that catches. */
export const flicker = defineMove({
  id: 'flicker',
  name: 'Flicker',
  hint: 'Like a lantern that catches.',
  use: 'pass',
  at: (t, { index }) => ({ opacity: t >= 1 ? 1 : hash(Math.floor(t * 11), index, 5) < t ? 0.35 + 0.65 * t : 0.05 }),
})
