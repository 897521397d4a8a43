import { defineTransition, direction8, vectorOf, moved } from '../define'

/** The new picture slides over the old one. */
export const slideOver = defineTransition({
  id: 'slideOver',
  name: 'Slide over',
  family: 'slides',
  hint: 'The new picture slides over the old one.',
  ease: 'out',
  params: [direction8('left')],
  draw(stage, t, settings) {
    const [dx, dy] = vectorOf(settings.direction)
    stage.put(stage.from)
    stage.lay(stage.to, moved(dx * (t - 1) * stage.width, dy * (t - 1) * stage.height))
  },
})
