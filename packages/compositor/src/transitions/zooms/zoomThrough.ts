import { defineTransition, about } from '../define'
import { smooth, part } from '../maths'

/** Goes into the old picture and comes out in the new one. */
export const zoomThrough = defineTransition({
  id: 'zoomThrough',
  name: 'Zoom through',
  family: 'zooms',
  hint: 'Goes into the old picture and comes out in the new one.',
  ease: 'both',
  draw(stage, t) {
    stage.lay(stage.to, about(stage, 0.5, 0.5, 1.25 - 0.25 * t))
    stage.lay(stage.from, about(stage, 0.5, 0.5, 1 + 2 * t), 1 - smooth(part(t, 0.25, 0.85)))
  },
})
