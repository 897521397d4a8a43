import { shapeWipe, number } from '../define'

/** Slanting bands cross and leave diamonds. */
export const lattice = shapeWipe({
  id: 'lattice',
  name: 'Lattice',
  hint: 'Slanting bands cross and leave diamonds.',
  params: [number('count', 'Bands', 1, 30, 6)],
  soft: 6,
  shape: ({ count }) => {
    const n = Number(count)
    return (x, y, a) => Math.abs((((x * a + y) * n) % 1) - 0.5) + Math.abs((((x * a - y + 10) * n) % 1) - 0.5)
  },
})
