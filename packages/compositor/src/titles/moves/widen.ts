import { defineMove } from '../define'
import { smooth, part } from '../../transitions/maths'

/** Opens from a narrow stroke. */
export const widen = defineMove({
  id: 'widen',
  name: 'Widen',
  hint: 'Opens from a narrow stroke.',
  use: 'pass',
  at: (t) => ({ sizeX: Math.max(0.01, smooth(t)), opacity: part(t, 0, 0.2) }),
})
