import { defineMove } from '../define'
import { smooth } from '../../transitions/maths'

/** Comes down into its place. */
export const sink = defineMove({
  id: 'sink',
  name: 'Sink in',
  hint: 'Comes down into its place.',
  use: 'pass',
  at: (t) => ({ y: (smooth(t) - 1) * 0.8, opacity: t }),
})
