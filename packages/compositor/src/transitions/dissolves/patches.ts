import { shapeWipe, number, seed } from '../define'
import { hash } from '../maths'

/** Squares change in no order. */
export const patches = shapeWipe({
  id: 'patches',
  name: 'Patches',
  family: 'dissolves',
  hint: 'Squares change in no order.',
  params: [number('count', 'Across', 2, 80, 16), seed()],
  soft: 18,
  shape: ({ seed, count }) => {
    const [n, c] = [Number(seed), Number(count)]
    return (x, y, a) => hash(Math.floor(x * c), Math.floor((y * c) / a), n)
  },
})
