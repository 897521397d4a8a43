import type { Picture } from '../../picture'
import { defineTransition, direction4, vectorOf, moved } from '../define'
import { unit, hump } from '../maths'

/** A fast pan smears from one picture to the other. */
export const whip = defineTransition({
  id: 'whip',
  name: 'Whip',
  family: 'slides',
  hint: 'A fast pan smears from one picture to the other.',
  ease: 'both',
  params: [direction4('left')],
  draw(stage, t, settings) {
    const [dx, dy] = vectorOf(settings.direction)
    const both = (at: number, target: Picture) => {
      stage.lay(stage.from, moved(dx * at * stage.width, dy * at * stage.height), 1, target)
      stage.lay(stage.to, moved(dx * (at - 1) * stage.width, dy * (at - 1) * stage.height), 1, target)
    }
    const spread = hump(t) * 0.12
    stage.average(7, (i, target) => both(unit(t + (i / 6 - 0.5) * spread), target))
  },
})
