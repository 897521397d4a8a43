import { defineMove } from '../define'
import { hash, smooth, part } from '../../transitions/maths'

/** Falls from above at its own pace. */
export const drizzle = defineMove({
  id: 'drizzle',
  name: 'Drizzle',
  hint: 'Falls from above at its own pace.',
  use: 'pass',
  at: (t, { index }) => ({ y: -(1 - smooth(t)) * (1.5 + 2 * hash(index, 4)), opacity: part(t, 0, 0.5) }),
})
