import { shapeWipe, inOut } from '../define'

/** An oval in the shape of the frame opens. */
export const oval = shapeWipe({
  id: 'oval',
  name: 'Oval',
  hint: 'An oval in the shape of the frame opens.',
  params: [inOut()],
  soft: 4,
  shape:
    ({ way }) =>
    (x, y) => {
      const r = Math.sqrt((x - 0.5) * (x - 0.5) + (y - 0.5) * (y - 0.5)) / Math.SQRT1_2
      return way === 'in' ? 1 - r : r
    },
})
