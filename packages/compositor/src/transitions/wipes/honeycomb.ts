import { shapeWipe, number } from '../define'
import { hash } from '../maths'

/** Six-sided cells change from one corner on. */
export const honeycomb = shapeWipe({
  id: 'honeycomb',
  name: 'Honeycomb',
  hint: 'Six-sided cells change from one corner on.',
  params: [number('count', 'Across', 4, 60, 14)],
  soft: 6,
  shape: ({ count }) => {
    const n = Number(count)
    return (x, y, a) => {
      const row = Math.floor(((y / a) * n) / 0.866)
      const u = x * n + (row % 2) / 2
      return (Math.floor(u) / n) * 0.5 + ((row * 0.866 * a) / n) * 0.3 + hash(Math.floor(u), row) * 0.2
    }
  },
})
