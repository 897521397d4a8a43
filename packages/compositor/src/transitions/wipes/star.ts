import { shapeWipe, inOut } from '../define'
import { turnOf } from '../maths'

/** A star with five points opens. */
export const star = shapeWipe({
  id: 'star',
  name: 'Star',
  hint: 'A star with five points opens.',
  params: [inOut()],
  shape:
    ({ way }) =>
    (x, y, a) => {
      const [dx, dy] = [(x - 0.5) * a, y - 0.5]
      const wedge = Math.abs(((turnOf(dx, dy) * 5 + 0.5) % 1) - 0.5) * 2
      const r = (Math.sqrt(dx * dx + dy * dy) * (0.55 + 0.75 * wedge)) / (0.72 * Math.sqrt(a * a + 1))
      return way === 'in' ? 1 - r : r
    },
})
