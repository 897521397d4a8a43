import { multiply } from '@dusk/timeline'
import { defineTransition, moved, about } from '../define'

/** The new picture rolls in like a wheel. */
export const rollIn = defineTransition({
  id: 'rollIn',
  name: 'Roll in',
  family: 'zooms',
  hint: 'The new picture rolls in like a wheel.',
  ease: 'out',
  draw(stage, t) {
    stage.put(stage.from)
    stage.lay(stage.to, multiply(moved((1 - t) * stage.width * 1.25, 0), about(stage, 0.5, 0.5, 1, 1, (1 - t) * 200)))
  },
})
