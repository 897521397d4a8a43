import { shapeWipe, axis, number } from '../define'

/** Slats turn over all at once. */
export const blinds = shapeWipe({
  id: 'blinds',
  name: 'Blinds',
  hint: 'Slats turn over all at once.',
  params: [axis('down'), number('count', 'Slats', 2, 60, 12)],
  soft: 6,
  shape: ({ axis, count }) => {
    const n = Number(count)
    return (x, y) => ((axis === 'down' ? y : x) * n) % 1
  },
})
