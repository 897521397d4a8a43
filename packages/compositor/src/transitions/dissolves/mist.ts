import { shapeWipe, number, seed } from '../define'
import { clouds } from '../maths'

/** The new picture comes through drifting clouds. */
export const mist = shapeWipe({
  id: 'mist',
  name: 'Mist',
  family: 'dissolves',
  hint: 'The new picture comes through drifting clouds.',
  params: [number('size', 'Size', 5, 100, 22, '%'), seed()],
  soft: 30,
  shape: ({ seed, size }) => {
    const [n, s] = [Number(seed), 100 / Number(size)]
    return (x, y, a) => clouds(x * a * s, y * s, n) * 1.3 - 0.15
  },
})
