import { defineTransition } from '../define'
import { bendMiddle } from '../bendMiddle'
import { hump } from '../maths'

/** A bulge swells over the picture and gives way to the next. */
export const lens = defineTransition({
  id: 'lens',
  name: 'Lens',
  family: 'lights',
  hint: 'A bulge swells over the picture and gives way to the next.',
  ease: 'both',
  draw(stage, t) {
    const bend = (dx: number, dy: number, r: number): [number, number] => {
      const pull = 1 - hump(t) * 0.85 * (1 - r) * (1 - r)
      return [dx * pull, dy * pull]
    }
    bendMiddle(stage, t, bend, 8)
  },
})
