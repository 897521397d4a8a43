import { defineTransition, number } from '../define'
import { smooth, hump, part } from '../maths'

/** Red and blue drift apart and come together on the next picture. */
export const colourSplit = defineTransition({
  id: 'colourSplit',
  name: 'Colour split',
  family: 'glitches',
  hint: 'Red and blue drift apart and come together on the next picture.',
  ease: 'both',
  params: [number('amount', 'Amount', 1, 100, 30)],
  draw(stage, t, settings) {
    const by = (hump(t) * Number(settings.amount) * stage.width) / 500
    const sheet = stage.sheet()
    stage.dissolve(smooth(part(t, 0.35, 0.65)), stage.from, stage.to, sheet)
    stage.put(stage.splitColours(sheet, [by, -by / 4], [-by, by / 4]))
  },
})
