import { defineMove } from '../define'
import { smooth, part } from '../../transitions/maths'

/** Slides in from the left. */
export const fromLeft = defineMove({
  id: 'fromLeft',
  name: 'From the left',
  hint: 'Slides in from the left.',
  use: 'pass',
  at: (t) => ({ x: (smooth(t) - 1) * 1.6, opacity: part(t, 0, 0.6) }),
})
