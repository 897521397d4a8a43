import { defineTransition, about } from '../define'
import { hash, hump } from '../maths'

/** Jumps to and fro before it settles. */
export const stutter = defineTransition({
  id: 'stutter',
  name: 'Stutter',
  family: 'glitches',
  hint: 'Jumps to and fro before it settles.',
  draw(stage, t) {
    const step = Math.floor(t * 10)
    const shown = hash(step, 0, 21) < t ? stage.to : stage.from
    const size = 1 + 0.08 * hump(t) * hash(step, 1, 21)
    stage.lay(shown, about(stage, 0.5, 0.5, size))
  },
})
