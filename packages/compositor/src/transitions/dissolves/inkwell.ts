import { shapeWipe, seed } from '../define'
import { noise } from '../maths'

/** Blots with crisp shores run together. */
export const inkwell = shapeWipe({
  id: 'inkwell',
  name: 'Inkwell',
  family: 'dissolves',
  hint: 'Blots with crisp shores run together.',
  params: [seed()],
  soft: 3,
  shape: ({ seed }) => {
    const n = Number(seed)
    return (x, y, a) => noise(x * a * 4, y * 4, n) * 0.75 + noise(x * a * 18, y * 18, n + 5) * 0.25
  },
})
