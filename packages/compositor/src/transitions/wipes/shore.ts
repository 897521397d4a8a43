import { shapeWipe, direction4, seed, vectorOf } from '../define'
import { clouds } from '../maths'

/** A ragged edge washes across. */
export const shore = shapeWipe({
  id: 'shore',
  name: 'Shore',
  hint: 'A ragged edge washes across.',
  params: [direction4('right'), seed()],
  soft: 4,
  shape: ({ direction, seed }) => {
    const [dx, dy] = vectorOf(direction)
    const n = Number(seed)
    return (x, y, a) => ((x - 0.5) * dx + (y - 0.5) * dy + 0.5) * 0.8 + clouds(x * a * 5, y * 5, n) * 0.2
  },
})
