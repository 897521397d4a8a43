import { shapeWipe, number } from '../define'
import { circle } from '../shapes'

/** Rings spread like drops on water. */
export const rings = shapeWipe({
  id: 'rings',
  name: 'Rings',
  hint: 'Rings spread like drops on water.',
  params: [number('count', 'Rings', 2, 30, 8)],
  soft: 5,
  shape: ({ count }) => {
    const n = Number(count)
    return (x, y, a) => {
      const r = circle(x, y, a) * n
      return (Math.floor(r) / n) * 0.5 + (r % 1) * 0.5
    }
  },
})
