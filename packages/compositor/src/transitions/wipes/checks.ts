import { shapeWipe, number } from '../define'

/** Every second square first, then the rest. */
export const checks = shapeWipe({
  id: 'checks',
  name: 'Checks',
  hint: 'Every second square first, then the rest.',
  params: [number('count', 'Across', 2, 60, 10)],
  soft: 4,
  shape: ({ count }) => {
    const n = Number(count)
    return (x, y, a) => ((Math.floor(x * n) + Math.floor((y * n) / a)) % 2) * 0.5 + ((x * n) % 1) * 0.5
  },
})
