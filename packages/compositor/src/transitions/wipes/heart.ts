import { shapeWipe, inOut } from '../define'

/** A heart opens. */
export const heart = shapeWipe({
  id: 'heart',
  name: 'Heart',
  hint: 'A heart opens.',
  params: [inOut()],
  shape:
    ({ way }) =>
    (x, y, a) => {
      const dx = Math.abs(x - 0.5) * a * 1.15
      const dy = y - 0.54 + Math.sqrt(dx) * 0.32
      const r = Math.sqrt(dx * dx + dy * dy * 1.3) / (0.72 * Math.sqrt(a * a + 1))
      return way === 'in' ? 1 - r : r
    },
})
