import { defineTransition, twoWays } from '../define'
import { bendBox } from '../cards'

/** The two pictures are sides of a turning box. */
export const box = defineTransition({
  id: 'box',
  name: 'Box',
  family: 'folds',
  hint: 'The two pictures are sides of a turning box.',
  ease: 'both',
  params: [twoWays()],
  draw(stage, t, settings) {
    bendBox(
      stage,
      settings.direction === 'right' ? 1 - t : t,
      settings.direction === 'right' ? stage.to : stage.from,
      settings.direction === 'right' ? stage.from : stage.to,
    )
  },
})
