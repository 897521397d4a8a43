import { defineTransition, direction8, vectorOf, moved } from '../define'

/** The old picture slides off the new one. */
export const slideAway = defineTransition({
  id: 'slideAway',
  name: 'Slide away',
  family: 'slides',
  hint: 'The old picture slides off the new one.',
  ease: 'in',
  params: [direction8('left')],
  draw(stage, t, settings) {
    const [dx, dy] = vectorOf(settings.direction)
    stage.put(stage.to)
    stage.lay(stage.from, moved(dx * t * stage.width, dy * t * stage.height))
  },
})
