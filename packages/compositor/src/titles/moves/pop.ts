import { defineMove } from '../define'
import { smooth, part } from '../../transitions/maths'

/** Jumps a little too large and back. */
export const pop = defineMove({
  id: 'pop',
  name: 'Pop',
  hint: 'Jumps a little too large and back.',
  use: 'pass',
  at: (t) => ({
    size: t < 0.65 ? smooth(t / 0.65) * 1.18 : 1.18 - 0.18 * smooth((t - 0.65) / 0.35),
    opacity: part(t, 0, 0.2),
  }),
})
