import { multiply } from '@dusk/timeline'
import { defineTransition, moved, about } from '../define'
import { smooth, hump, part } from '../maths'

/** The two pictures pass each other, one in front. */
export const trade = defineTransition({
  id: 'trade',
  name: 'Trade places',
  family: 'slides',
  hint: 'The two pictures pass each other, one in front.',
  ease: 'both',
  draw(stage, t) {
    const swing = hump(t) * 0.5 * stage.width
    const back = about(stage, 0.5, 0.5, 1 - 0.25 * hump(t))
    const [front, behind] = t < 0.5 ? [stage.from, stage.to] : [stage.to, stage.from]
    stage.lay(behind, multiply(moved(t < 0.5 ? swing : -swing, 0), back), smooth(part(hump(t), 0, 0.25)))
    stage.lay(front, multiply(moved(t < 0.5 ? -swing : swing, 0), back))
  },
})
