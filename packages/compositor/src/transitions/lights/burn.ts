import { defineTransition, colour, seed } from '../define'
import type { Shape } from '../maps'
import { clouds } from '../maths'
import { circle } from '../shapes'

/** A glowing edge eats through the picture. */
export const burn = defineTransition({
  id: 'burn',
  name: 'Burn',
  family: 'lights',
  hint: 'A glowing edge eats through the picture.',
  params: [colour('#ff9e5e'), seed()],
  draw(stage, t, settings) {
    const n = Number(settings.seed)
    const shape: Shape = (x, y, a) => clouds(x * a * 4, y * 4, n) * 0.8 + circle(x, y, a) * 0.2
    const char = stage.copy(stage.from)
    stage.wipe(
      `burn ${n}`,
      shape,
      Math.min(1, t * 1.06 + 0.02),
      { softness: 16, edge: 85, edgeColour: '#16131c' },
      stage.from,
      char,
      char,
    )
    stage.wipe(`burn ${n}`, shape, t, { softness: 5, edge: 100, edgeColour: String(settings.colour) }, char, stage.to)
  },
})
