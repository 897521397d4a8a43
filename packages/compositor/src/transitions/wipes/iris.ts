import { shapeWipe, inOut } from '../define'
import { circle } from '../shapes'

/** A circle opens. */
export const iris = shapeWipe({
  id: 'iris',
  name: 'Iris',
  hint: 'A circle opens.',
  params: [inOut()],
  shape:
    ({ way }) =>
    (x, y, a) => {
      const r = circle(x, y, a)
      return way === 'in' ? 1 - r : r
    },
})
