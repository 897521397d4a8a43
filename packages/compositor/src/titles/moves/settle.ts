import { defineMove } from '../define'
import { smooth } from '../../transitions/maths'

/** Comes from large down to its size. */
export const settle = defineMove({
  id: 'settle',
  name: 'Settle',
  hint: 'Comes from large down to its size.',
  use: 'pass',
  at: (t) => ({ size: 1 + (1 - smooth(t)) * 1.4, opacity: t }),
})
