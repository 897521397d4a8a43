import { shapeWipe, way } from '../define'
import { turnOf } from '../maths'

/** A hand goes round. */
export const clock = shapeWipe({
  id: 'clock',
  name: 'Clock',
  hint: 'A hand goes round.',
  params: [way()],
  soft: 1,
  shape:
    ({ way }) =>
    (x, y, a) => {
      const turn = turnOf((x - 0.5) * a, y - 0.5)
      return way === 'counter' ? 1 - turn : turn
    },
})
