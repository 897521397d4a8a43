import { defineTransition, direction8, vectorOf, moved } from '../define'

/** The new picture pushes the old one out. */
export const push = defineTransition({
  id: 'push',
  name: 'Push',
  family: 'slides',
  hint: 'The new picture pushes the old one out.',
  ease: 'both',
  params: [direction8('left')],
  draw(stage, t, settings) {
    const [dx, dy] = vectorOf(settings.direction)
    stage.lay(stage.from, moved(dx * t * stage.width, dy * t * stage.height))
    stage.lay(stage.to, moved(dx * (t - 1) * stage.width, dy * (t - 1) * stage.height))
  },
})
