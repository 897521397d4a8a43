import { shapeWipe, inOut } from '../define'

/** A rectangle opens. */
export const window = shapeWipe({
  id: 'window',
  name: 'Window',
  hint: 'A rectangle opens.',
  params: [inOut()],
  shape:
    ({ way }) =>
    (x, y) => {
      const r = 2 * Math.max(Math.abs(x - 0.5), Math.abs(y - 0.5))
      return way === 'in' ? 1 - r : r
    },
})
