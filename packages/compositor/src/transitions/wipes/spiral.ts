import { shapeWipe, number } from '../define'
import { turnOf } from '../maths'
import { circle } from '../shapes'

/** Winds in from the edge to the middle. */
export const spiral = shapeWipe({
  id: 'spiral',
  name: 'Spiral',
  hint: 'Winds in from the edge to the middle.',
  params: [number('turns', 'Turns', 2, 20, 6)],
  soft: 3,
  shape: ({ turns }) => {
    const n = Number(turns)
    return (x, y, a) => {
      const r = 1 - circle(x, y, a)
      return Math.min(1, (Math.floor(r * n) + turnOf((x - 0.5) * a, y - 0.5)) / n)
    }
  },
})
