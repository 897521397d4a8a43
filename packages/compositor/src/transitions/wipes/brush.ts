import { shapeWipe, seed } from '../define'
import { noise } from '../maths'

/** Painted over in a few broad strokes. */
export const brush = shapeWipe({
  id: 'brush',
  name: 'Brush strokes',
  hint: 'Painted over in a few broad strokes.',
  params: [seed()],
  soft: 3,
  shape: ({ seed }) => {
    const n = Number(seed)
    return (x, y, a) => {
      const stroke = Math.floor(y * 5 + noise(x * 3, 0, n) * 0.35)
      const along = stroke % 2 === 0 ? x : 1 - x
      return (stroke + along * 0.85 + noise(x * a * 5, y * 70, n + 2) * 0.25) / 6.2
    }
  },
})
