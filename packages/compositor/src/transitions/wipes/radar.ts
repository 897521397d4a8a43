import { shapeWipe } from '../define'
import { turnOf } from '../maths'

/** A quarter turn from a corner. */
export const radar = shapeWipe({
  id: 'radar',
  name: 'Radar',
  hint: 'A quarter turn from a corner.',
  soft: 3,
  shape: () => (x, y, a) => turnOf(x * a, y - 1) * 4,
})
