import { shapeWipe } from '../define'
import { turnOf } from '../maths'

/** Opens like a fan from the middle of an edge. */
export const fan = shapeWipe({
  id: 'fan',
  name: 'Fan',
  hint: 'Opens like a fan from the middle of an edge.',
  shape: () => (x, y, a) => ((turnOf((x - 0.5) * a, y - 1.02) + 0.25) % 1) * 2,
})
