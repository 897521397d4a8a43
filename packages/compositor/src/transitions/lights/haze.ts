import { defineTransition, about } from '../define'
import { smooth, hump, part } from '../maths'

/** Streaks run out from the middle. */
export const haze = defineTransition({
  id: 'haze',
  name: 'Haze',
  family: 'lights',
  hint: 'Streaks run out from the middle.',
  ease: 'both',
  draw(stage, t) {
    const reach = hump(t) * 0.25
    const sheet = stage.sheet()
    stage.dissolve(smooth(part(t, 0.3, 0.7)), stage.from, stage.to, sheet)
    stage.average(8, (i, target) => stage.lay(sheet, about(stage, 0.5, 0.5, 1 + (i / 7) * reach), 1, target))
  },
})
