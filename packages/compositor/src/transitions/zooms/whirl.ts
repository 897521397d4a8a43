import { defineTransition, number } from '../define'
import { sinTurn, cosTurn, unit, smooth, hump, part } from '../maths'

/** Stirred into the middle and out again. */
export const whirl = defineTransition({
  id: 'whirl',
  name: 'Whirl',
  family: 'zooms',
  hint: 'Stirred into the middle and out again.',
  ease: 'both',
  params: [number('turns', 'Turns', 0.1, 4, 1)],
  draw(stage, t, settings) {
    const turns = Number(settings.turns)
    const [cx, cy] = [stage.width / 2, stage.height / 2]
    const reach = Math.sqrt(cx * cx + cy * cy)
    const sheet = stage.sheet()
    stage.dissolve(smooth(part(t, 0.35, 0.65)), stage.from, stage.to, sheet)
    stage.bend(
      sheet,
      (x, y) => {
        const [dx, dy] = [x - cx, y - cy]
        const near = unit(1 - Math.sqrt(dx * dx + dy * dy) / reach)
        const by = turns * hump(t) * near * near
        const [s, c] = [sinTurn(by), cosTurn(by)]
        return [cx + dx * c + dy * s, cy - dx * s + dy * c]
      },
      { repeat: true },
    )
  },
})
