import { defineTransition, number } from '../define'
import { sinTurn, smooth, hump } from '../maths'

/** The surface trembles as if a stone fell in. */
export const rippleWater = defineTransition({
  id: 'rippleWater',
  name: 'Ripples',
  family: 'lights',
  hint: 'The surface trembles as if a stone fell in.',
  params: [number('amount', 'Height', 1, 100, 30)],
  draw(stage, t, settings) {
    const [cx, cy] = [stage.width / 2, stage.height / 2]
    const height = (Number(settings.amount) * stage.width) / 2500
    const sheet = stage.sheet()
    stage.dissolve(smooth(t), stage.from, stage.to, sheet)
    stage.bend(
      sheet,
      (x, y) => {
        const [dx, dy] = [x - cx, y - cy]
        const r = Math.sqrt(dx * dx + dy * dy)
        const by = r > 0 ? (sinTurn((r / stage.width) * 7 - t * 3) * height * hump(t)) / r : 0
        return [x + dx * by, y + dy * by]
      },
      { repeat: true, cell: 8 },
    )
  },
})
