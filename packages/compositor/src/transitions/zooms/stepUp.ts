import { defineTransition, about } from '../define'
import { part } from '../maths'

/** The new picture grows out of the middle. */
export const stepUp = defineTransition({
  id: 'stepUp',
  name: 'Step up',
  family: 'zooms',
  hint: 'The new picture grows out of the middle.',
  ease: 'out',
  draw(stage, t) {
    stage.put(stage.from)
    if (t > 0) stage.lay(stage.to, about(stage, 0.5, 0.5, t), part(t, 0, 0.3))
  },
})
