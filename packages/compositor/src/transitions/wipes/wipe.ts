import { shapeWipe, direction8, vectorOf } from '../define'

/** A straight border crosses the picture. */
export const wipe = shapeWipe({
  id: 'wipe',
  name: 'Wipe',
  hint: 'A straight border crosses the picture.',
  params: [direction8()],
  shape: ({ direction }) => {
    const [dx, dy] = vectorOf(direction)
    const half = (Math.abs(dx) + Math.abs(dy)) / 2
    return (x, y) => ((x - 0.5) * dx + (y - 0.5) * dy) / (2 * half) + 0.5
  },
})
