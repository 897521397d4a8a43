import { defineTransition, about } from '../define'
import { part } from '../maths'

/** The old picture shrinks away and the new one is behind it. */
export const stepBack = defineTransition({
  id: 'stepBack',
  name: 'Step back',
  family: 'zooms',
  hint: 'The old picture shrinks away and the new one is behind it.',
  ease: 'in',
  draw(stage, t) {
    stage.put(stage.to)
    stage.lay(stage.from, about(stage, 0.5, 0.5, Math.max(0.001, 1 - t)), 1 - part(t, 0.7, 1))
  },
})
