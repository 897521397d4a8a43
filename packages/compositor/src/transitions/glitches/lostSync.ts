import { defineTransition, moved } from '../define'
import { sinTurn, smooth, hump } from '../maths'

/** The picture rolls like a set that has lost its hold. */
export const lostSync = defineTransition({
  id: 'lostSync',
  name: 'Lost sync',
  family: 'glitches',
  hint: 'The picture rolls like a set that has lost its hold.',
  draw(stage, t) {
    const shown = t < 0.5 ? stage.from : stage.to
    const roll = (smooth(t) * 2 * stage.height) % stage.height
    const lean = stage.shiftRows(shown, (row) => hump(t) * stage.width * 0.06 * sinTurn(row / stage.height + t * 2))
    stage.lay(lean, moved(0, roll))
    stage.lay(lean, moved(0, roll - stage.height))
  },
})
