import { defineMove } from '../define'
import { smooth } from '../../transitions/maths'

/** Comes up into its place. */
export const rise = defineMove({
  id: 'rise',
  name: 'Rise',
  hint: 'Comes up into its place.',
  use: 'pass',
  at: (t) => ({ y: (1 - smooth(t)) * 0.8, opacity: t }),
})
