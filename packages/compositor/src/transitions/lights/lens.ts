import { defineTransition } from '../define'
import { smooth, hump, part } from '../maths'

/** A bulge swells over the picture and gives way to the next. */
export const lens = defineTransition({
  id: 'lens',
  name: 'Lens',
  family: 'lights',
  hint: 'A bulge swells over the picture and gives way to the next.',
  ease: 'both',
  draw(stage, t) {
    const [cx, cy] = [stage.width / 2, stage.height / 2]
    const reach = Math.sqrt(cx * cx + cy * cy)
    const sheet = stage.sheet()
    stage.dissolve(smooth(part(t, 0.35, 0.65)), stage.from, stage.to, sheet)
    stage.bend(
      sheet,
      (x, y) => {
        const [dx, dy] = [x - cx, y - cy]
        const r = Math.sqrt(dx * dx + dy * dy) / reach
        const pull = 1 - hump(t) * 0.85 * (1 - r) * (1 - r)
        return [cx + dx * pull, cy + dy * pull]
      },
      { repeat: true, cell: 8 },
    )
  },
})
