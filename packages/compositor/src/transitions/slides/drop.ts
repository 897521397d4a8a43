import { defineTransition, moved } from '../define'
import { hump, part } from '../maths'

/** The new picture falls in and settles. */
export const drop = defineTransition({
  id: 'drop',
  name: 'Drop in',
  family: 'slides',
  hint: 'The new picture falls in and settles.',
  draw(stage, t) {
    stage.put(stage.from)
    const fall = t < 0.6 ? (t / 0.6) * (t / 0.6) : 1 - 0.12 * hump(part(t, 0.6, 0.85)) - 0.03 * hump(part(t, 0.85, 1))
    stage.lay(stage.to, moved(0, (fall - 1) * stage.height))
  },
})
