import { defineTransition, number } from '../define'
import { cosTurn, smooth, part } from '../maths'

/** Upright boards turn round one by one. */
export const boards = defineTransition({
  id: 'boards',
  name: 'Boards',
  family: 'folds',
  hint: 'Upright boards turn round one by one.',
  params: [number('count', 'Boards', 2, 24, 7)],
  draw(stage, t, settings) {
    const count = Math.round(Number(settings.count))
    for (let i = 0; i < count; i++) {
      const late = (i / count) * 0.5
      const at = smooth(part(t, late, late + 0.5))
      const [x0, x1] = [Math.round((i * stage.width) / count), Math.round(((i + 1) * stage.width) / count)]
      const wide = Math.max(0.001, Math.abs(cosTurn(at / 2)))
      const board = stage.cut(at < 0.5 ? stage.from : stage.to, x0, 0, x1 - x0, stage.height)
      stage.towards(board, '#000000', (1 - wide) * 0.6)
      stage.lay(board, [wide, 0, 0, 1, x0 + ((x1 - x0) * (1 - wide)) / 2, 0])
    }
  },
})
