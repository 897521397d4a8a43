import { shapeWipe, number } from '../define'

/** A border of teeth crosses the picture. */
export const sawtooth = shapeWipe({
  id: 'sawtooth',
  name: 'Sawtooth',
  hint: 'A border of teeth crosses the picture.',
  params: [number('count', 'Teeth', 1, 40, 9)],
  shape: ({ count }) => {
    const n = Number(count)
    return (x, y) => x * 0.88 + 0.12 * Math.abs(((y * n) % 1) * 2 - 1)
  },
})
