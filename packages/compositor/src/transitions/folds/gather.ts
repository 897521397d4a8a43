import { defineTransition, number, moved } from '../define'
import { hash, smooth, part } from '../maths'

/** Pieces of the new picture fly together. */
export const gather = defineTransition({
  id: 'gather',
  name: 'Gather',
  family: 'folds',
  hint: 'Pieces of the new picture fly together.',
  params: [number('count', 'Across', 2, 20, 6)],
  draw(stage, t, settings) {
    const across = Math.round(Number(settings.count))
    const down = Math.max(1, Math.round((across * stage.height) / stage.width))
    stage.put(stage.from)
    for (let j = 0; j < down; j++)
      for (let i = 0; i < across; i++) {
        const late = hash(i, j, 3) * 0.45
        const at = smooth(part(t, late, late + 0.55))
        if (at <= 0) continue
        const [x0, x1] = [Math.round((i * stage.width) / across), Math.round(((i + 1) * stage.width) / across)]
        const [y0, y1] = [Math.round((j * stage.height) / down), Math.round(((j + 1) * stage.height) / down)]
        const away = 1 - at
        const side = hash(i, j, 4) < 0.5 ? -1 : 1
        stage.lay(
          stage.cut(stage.to, x0, y0, x1 - x0, y1 - y0),
          moved(x0 + away * side * stage.width * 1.1, y0 + away * (hash(i, j, 5) - 0.5) * stage.height),
          part(at, 0, 0.3),
        )
      }
  },
})
