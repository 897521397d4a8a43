import { defineTransition } from '../define'
import { hash, hump } from '../maths'

/** Blocks of the next picture break in. */
export const blocks = defineTransition({
  id: 'blocks',
  name: 'Blocks',
  family: 'glitches',
  hint: 'Blocks of the next picture break in.',
  draw(stage, t) {
    const step = Math.floor(t * 12)
    stage.wipe(
      `blocks ${step}`,
      (x, y, a) => {
        const [i, j] = [Math.floor(x * 14 * a), Math.floor(y * 14)]
        return hash(i >> 1, j >> 2, 1) * 0.5 + hash(i, j, step) * 0.5
      },
      t,
      { softness: 0 },
      stage.from,
      stage.splitColours(stage.to, [hump(t) * stage.width * 0.02, 0], [0, 0]),
    )
  },
})
