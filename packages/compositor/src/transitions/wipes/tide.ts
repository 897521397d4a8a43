import { shapeWipe, number } from '../define'
import { sinTurn } from '../maths'

/** A border of waves runs up the picture. */
export const tide = shapeWipe({
  id: 'tide',
  name: 'Tide',
  hint: 'A border of waves runs up the picture.',
  params: [number('waves', 'Waves', 1, 12, 3)],
  soft: 4,
  shape: ({ waves }) => {
    const n = Number(waves)
    return (x, y) => (1 - y) * 0.86 + 0.07 + 0.07 * sinTurn(x * n + (1 - y))
  },
})
