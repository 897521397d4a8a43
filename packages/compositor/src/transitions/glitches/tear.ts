import { defineTransition } from '../define'
import { hash, hump } from '../maths'

/** Bands jump sideways. */
export const tear = defineTransition({
  id: 'tear',
  name: 'Tear',
  family: 'glitches',
  hint: 'Bands jump sideways.',
  draw(stage, t) {
    const step = Math.floor(t * 14)
    const strong = hump(t)
    const sheet = hash(step, 2, 11) < t ? stage.to : stage.from
    const bands = 18
    const torn = stage.shiftRows(sheet, (row) => {
      const band = Math.floor((row / stage.height) * bands)
      return hash(band, step, 1) < 0.55 * strong ? (hash(band, step, 3) - 0.5) * stage.width * 0.3 * strong : 0
    })
    const by = 0.02 * strong * stage.width
    stage.put(stage.splitColours(torn, [by, 0], [-by, 0]))
  },
})
