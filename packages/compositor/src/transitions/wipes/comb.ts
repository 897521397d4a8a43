import { shapeWipe, number } from '../define'

/** Teeth come in from both sides. */
export const comb = shapeWipe({
  id: 'comb',
  name: 'Comb',
  hint: 'Teeth come in from both sides.',
  params: [number('count', 'Teeth', 2, 60, 12)],
  soft: 3,
  shape: ({ count }) => {
    const n = Number(count)
    return (x, y) => (Math.floor(y * n) % 2 === 0 ? x : 1 - x)
  },
})
