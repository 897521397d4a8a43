import { defineMove } from '../define'
import { hump, part } from '../../transitions/maths'

/** Falls and bounces to rest. */
export const bounce = defineMove({
  id: 'bounce',
  name: 'Bounce',
  hint: 'Falls and bounces to rest.',
  use: 'pass',
  at: (t) => ({
    y: -(t < 0.5 ? 1 - (t / 0.5) * (t / 0.5) : 0.3 * hump(part(t, 0.5, 0.8)) + 0.08 * hump(part(t, 0.8, 1))) * 1.6,
    opacity: part(t, 0, 0.15),
  }),
})
