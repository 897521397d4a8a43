import { shapeWipe, inOut } from '../define'

/** A diamond opens. */
export const diamond = shapeWipe({
  id: 'diamond',
  name: 'Diamond',
  hint: 'A diamond opens.',
  params: [inOut()],
  shape:
    ({ way }) =>
    (x, y, a) => {
      const r = (Math.abs(x - 0.5) * a + Math.abs(y - 0.5)) / ((a + 1) / 2)
      return way === 'in' ? 1 - r : r
    },
})
