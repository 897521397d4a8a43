import { defineTransition, number } from '../define'
import { smooth, hump, part } from '../maths'

/** Falls into ever larger squares and finds its shape again. */
export const squares = defineTransition({
  id: 'squares',
  name: 'Squares',
  family: 'folds',
  hint: 'Falls into ever larger squares and finds its shape again.',
  ease: 'both',
  params: [number('size', 'Size', 2, 200, 60)],
  draw(stage, t, settings) {
    const sheet = stage.sheet()
    stage.dissolve(smooth(part(t, 0.35, 0.65)), stage.from, stage.to, sheet)
    stage.put(stage.pixelate(sheet, 1 + (hump(t) * Number(settings.size) * stage.width) / 1000))
  },
})
