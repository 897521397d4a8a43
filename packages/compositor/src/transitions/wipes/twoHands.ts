import { shapeWipe, way } from '../define'
import { turnOf } from '../maths'

/** Two hands go round from top and bottom. */
export const twoHands = shapeWipe({
  id: 'twoHands',
  name: 'Two hands',
  hint: 'Two hands go round from top and bottom.',
  params: [way()],
  soft: 1,
  shape:
    ({ way }) =>
    (x, y, a) => {
      const turn = (turnOf((x - 0.5) * a, y - 0.5) * 2) % 1
      return way === 'counter' ? 1 - turn : turn
    },
})
