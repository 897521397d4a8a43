import { defineTransition, direction4, number, vectorOf, moved } from '../define'
import { smooth, part } from '../maths'

/** Strips slide in one after the other. */
export const ladder = defineTransition({
  id: 'ladder',
  name: 'Ladder',
  family: 'slides',
  hint: 'Strips slide in one after the other.',
  params: [direction4('left'), number('count', 'Strips', 2, 24, 6)],
  draw(stage, t, settings) {
    const [dx, dy] = vectorOf(settings.direction)
    const count = Math.round(Number(settings.count))
    stage.put(stage.from)
    for (let i = 0; i < count; i++) {
      const at = smooth(part(t, (i / count) * 0.6, (i / count) * 0.6 + 0.4))
      if (at <= 0) continue
      if (dx !== 0) {
        const [y0, y1] = [Math.round((i * stage.height) / count), Math.round(((i + 1) * stage.height) / count)]
        stage.lay(stage.cut(stage.to, 0, y0, stage.width, y1 - y0), moved(dx * (at - 1) * stage.width, y0))
      } else {
        const [x0, x1] = [Math.round((i * stage.width) / count), Math.round(((i + 1) * stage.width) / count)]
        stage.lay(stage.cut(stage.to, x0, 0, x1 - x0, stage.height), moved(x0, dy * (at - 1) * stage.height))
      }
    }
  },
})
