import { shapeWipe, number } from '../define'

/** Strips start one after the other. */
export const stairs = shapeWipe({
  id: 'stairs',
  name: 'Stairs',
  hint: 'Strips start one after the other.',
  params: [number('count', 'Steps', 2, 60, 10)],
  shape: ({ count }) => {
    const n = Number(count)
    return (x, y) => (Math.floor(x * n) / n) * 0.6 + y * 0.4
  },
})
