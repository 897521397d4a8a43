import { defineTransition, number } from '../define'
import { bendMiddle } from '../bendMiddle'
import { sinTurn, cosTurn, unit, hump } from '../maths'

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
    bendMiddle(stage, t, (dx, dy, r) => {
      const near = unit(1 - r)
      const by = turns * hump(t) * near * near
      const [s, c] = [sinTurn(by), cosTurn(by)]
      return [dx * c + dy * s, -dx * s + dy * c]
    })
  },
})
