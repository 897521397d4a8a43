import { defineTransition, direction4, number, vectorOf } from '../define'
import { smooth, hump, part } from '../maths'

/** Blurs along one direction and out again. */
export const glide = defineTransition({
  id: 'glide',
  name: 'Glide',
  family: 'lights',
  hint: 'Blurs along one direction and out again.',
  ease: 'both',
  params: [direction4('left'), number('amount', 'Amount', 1, 100, 30)],
  draw(stage, t, settings) {
    const [dx] = vectorOf(settings.direction)
    const sigma = (hump(t) * Number(settings.amount) * stage.width) / 500
    stage.dissolve(smooth(part(t, 0.3, 0.7)))
    stage.blur(stage.out, dx === 0 ? 0 : sigma, dx === 0 ? sigma : 0)
  },
})
