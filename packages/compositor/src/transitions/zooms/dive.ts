import { defineTransition, about } from '../define'
import { unit, hump } from '../maths'

/** Rushes in with a smear of speed. */
export const dive = defineTransition({
  id: 'dive',
  name: 'Dive',
  family: 'zooms',
  hint: 'Rushes in with a smear of speed.',
  ease: 'both',
  draw(stage, t) {
    const pace = hump(t)
    stage.average(6, (i, target) => {
      const at = unit(t + (i / 5 - 0.5) * 0.1 * pace)
      if (at < 0.5) stage.lay(stage.from, about(stage, 0.5, 0.5, 1 + at * at * 12), 1, target)
      else stage.lay(stage.to, about(stage, 0.5, 0.5, 1 + (1 - at) * (1 - at) * 2.4), 1, target)
    })
  },
})
