import { shapeWipe, seed } from '../define'
import { hash } from '../maths'

/** Streaks run down at their own pace. */
export const rain = shapeWipe({
  id: 'rain',
  name: 'Rain',
  hint: 'Streaks run down at their own pace.',
  params: [seed()],
  soft: 8,
  shape: ({ seed }) => {
    const n = Number(seed)
    return (x, y, a) => y * 0.55 + hash(Math.floor(x * 70 * a), 0, n) * 0.45
  },
})
