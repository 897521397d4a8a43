import { defineMove } from '../define'
import { smooth } from '../../transitions/maths'

/** Grows from small to its size. */
export const swell = defineMove({
  id: 'swell',
  name: 'Swell',
  hint: 'Grows from small to its size.',
  use: 'pass',
  at: (t) => ({ size: 0.3 + 0.7 * smooth(t), opacity: t }),
})
