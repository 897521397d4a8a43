import { multiply, rotation, translation } from '@dusk/timeline'
import { defineTransition, number } from '../define'
import { hash, part } from '../maths'

/** Breaks into pieces that fall away. */
export const shatter = defineTransition({
  id: 'shatter',
  name: 'Shatter',
  family: 'folds',
  hint: 'Breaks into pieces that fall away.',
  ease: 'in',
  params: [number('count', 'Across', 2, 20, 8)],
  draw(stage, t, settings) {
    const across = Math.round(Number(settings.count))
    const down = Math.max(1, Math.round((across * stage.height) / stage.width))
    stage.put(stage.to)
    for (let j = 0; j < down; j++)
      for (let i = 0; i < across; i++) {
        const [x0, x1] = [Math.round((i * stage.width) / across), Math.round(((i + 1) * stage.width) / across)]
        const [y0, y1] = [Math.round((j * stage.height) / down), Math.round(((j + 1) * stage.height) / down)]
        const late = hash(i, j, 7) * 0.3
        const at = part(t, late, late + 0.7)
        if (at >= 1) continue
        const turn = (hash(i, j, 8) - 0.5) * 220 * at
        const [cx, cy] = [(x1 - x0) / 2, (y1 - y0) / 2]
        const place = translation(
          x0 + cx + (hash(i, j, 9) - 0.5) * stage.width * 0.4 * at,
          y0 + cy + at * at * stage.height * 1.2,
        )
        stage.lay(
          stage.cut(stage.from, x0, y0, x1 - x0, y1 - y0),
          multiply(place, multiply(rotation(turn), translation(-cx, -cy))),
          1 - part(at, 0.6, 1),
        )
      }
  },
})
