import { defineMove } from '../define'
import { hash, smooth } from '../../transitions/maths'

/** Flies together from all sides. */
export const scatter = defineMove({
  id: 'scatter',
  name: 'Scatter',
  hint: 'Flies together from all sides.',
  use: 'pass',
  at: (t, { index }) => ({
    x: (hash(index, 1) - 0.5) * 8 * (1 - smooth(t)),
    y: (hash(index, 2) - 0.5) * 6 * (1 - smooth(t)),
    turn: (hash(index, 3) - 0.5) * 240 * (1 - smooth(t)),
    opacity: t,
  }),
})
