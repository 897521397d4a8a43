import { defineTransition, colour } from '../define'
import { hump } from '../maths'

/** The light goes down to a glow and comes up again. */
export const emberDim = defineTransition({
  id: 'emberDim',
  name: 'Ember dim',
  family: 'dips',
  peak: 0.5,
  hint: 'The light goes down to a glow and comes up again.',
  ease: 'both',
  params: [colour('#ff9e5e')],
  draw(stage, t, settings) {
    const sheet = stage.begin(t < 0.5 ? stage.from : stage.to)
    stage.towards(sheet, '#000000', hump(t) * 0.92)
    stage.light(sheet, String(settings.colour), hump(t) * 0.28)
  },
})
