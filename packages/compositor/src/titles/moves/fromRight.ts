import { defineMove } from '../define'
import { smooth, part } from '../../transitions/maths'

/** Slides in from the right. */
export const fromRight = defineMove({
  id: 'fromRight',
  name: 'From the right',
  hint: 'Slides in from the right.',
  use: 'pass',
  at: (t) => ({ x: (1 - smooth(t)) * 1.6, opacity: part(t, 0, 0.6) }),
})
