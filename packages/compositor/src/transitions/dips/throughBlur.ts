import { defineTransition, number } from '../define'
import { smooth, hump, part } from '../maths'

/** Loses focus, changes, finds it again. */
export const throughBlur = defineTransition({
  id: 'throughBlur',
  name: 'Out of focus',
  family: 'dips',
  hint: 'Loses focus, changes, finds it again.',
  ease: 'both',
  params: [number('amount', 'Amount', 1, 100, 30)],
  draw(stage, t, settings) {
    stage.dissolve(smooth(part(t, 0.3, 0.7)))
    const sigma = (hump(t) * Number(settings.amount) * stage.width) / 1000
    stage.blur(stage.out, sigma, sigma)
  },
})
