import { defineTransition, number } from '../define'
import { cosTurn, part } from '../maths'

/** Tiles turn over from one corner on. */
export const tileFlip = defineTransition({
  id: 'tileFlip',
  name: 'Tile flip',
  family: 'folds',
  hint: 'Tiles turn over from one corner on.',
  params: [number('count', 'Across', 2, 24, 8)],
  draw(stage, t, settings) {
    const across = Math.round(Number(settings.count))
    const down = Math.max(1, Math.round((across * stage.height) / stage.width))
    for (let j = 0; j < down; j++)
      for (let i = 0; i < across; i++) {
        const late = ((i / across + j / down) / 2) * 0.6
        const at = part(t, late, late + 0.4)
        const [x0, x1] = [Math.round((i * stage.width) / across), Math.round(((i + 1) * stage.width) / across)]
        const [y0, y1] = [Math.round((j * stage.height) / down), Math.round(((j + 1) * stage.height) / down)]
        const wide = Math.max(0.001, Math.abs(cosTurn(at / 2)))
        const piece = stage.cut(at < 0.5 ? stage.from : stage.to, x0, y0, x1 - x0, y1 - y0)
        stage.lay(piece, [wide, 0, 0, 1, x0 + ((x1 - x0) * (1 - wide)) / 2, y0])
      }
  },
})
