import { defineTransition, about } from '../define'
import { part } from '../maths'

/** The new picture jumps up a little too far and settles. */
export const pop = defineTransition({
  id: 'pop',
  name: 'Pop',
  family: 'zooms',
  hint: 'The new picture jumps up a little too far and settles.',
  draw(stage, t) {
    stage.put(stage.from)
    const size = t < 0.6 ? (t / 0.6) * 1.12 : 1 + 0.12 * (1 - part(t, 0.6, 1))
    if (t > 0) stage.lay(stage.to, about(stage, 0.5, 0.5, size), part(t, 0, 0.15))
  },
})
