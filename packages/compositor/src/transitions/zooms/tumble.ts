import { multiply } from '@dusk/timeline'
import { defineTransition, moved, about } from '../define'

/** The old picture turns over and falls away. */
export const tumble = defineTransition({
  id: 'tumble',
  name: 'Tumble',
  family: 'zooms',
  hint: 'The old picture turns over and falls away.',
  ease: 'in',
  draw(stage, t) {
    stage.put(stage.to)
    const size = 1 - 0.75 * t
    stage.lay(
      stage.from,
      multiply(
        moved(t * t * stage.width * 0.25, t * t * stage.height * 1.25),
        about(stage, 0.5, 0.5, size, size, t * 160),
      ),
    )
  },
})
