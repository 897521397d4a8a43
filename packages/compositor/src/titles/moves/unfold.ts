import { defineMove } from '../define'
import { smooth, part } from '../../transitions/maths'

/** Opens from a line. */
export const unfold = defineMove({
  id: 'unfold',
  name: 'Unfold',
  hint: 'Opens from a line.',
  use: 'pass',
  at: (t) => ({ sizeY: Math.max(0.01, smooth(t)), opacity: part(t, 0, 0.2) }),
})
