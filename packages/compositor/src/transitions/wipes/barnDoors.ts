import { shapeWipe, axis, inOut } from '../define'

/** Two borders part from the middle or meet there. */
export const barnDoors = shapeWipe({
  id: 'barnDoors',
  name: 'Barn doors',
  hint: 'Two borders part from the middle or meet there.',
  params: [axis(), inOut()],
  shape:
    ({ axis, way }) =>
    (x, y) => {
      const r = Math.abs((axis === 'down' ? y : x) - 0.5) * 2
      return way === 'in' ? 1 - r : r
    },
})
