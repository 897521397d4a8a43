import { shapeWipe, number } from '../define'

/** Dots grow until they meet. */
export const dots = shapeWipe({
  id: 'dots',
  name: 'Dots',
  hint: 'Dots grow until they meet.',
  params: [number('count', 'Across', 4, 80, 24)],
  soft: 3,
  shape: ({ count }) => {
    const n = Number(count)
    return (x, y, a) => {
      const [u, v] = [(x * n) % 1, ((y * n) / a) % 1]
      return Math.sqrt((u - 0.5) * (u - 0.5) + (v - 0.5) * (v - 0.5)) * 0.85 + x * 0.4
    }
  },
})
