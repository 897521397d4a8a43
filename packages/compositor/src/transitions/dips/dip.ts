import { defineTransition, colour } from '../define'
import { hump } from '../maths'

/** Out to a plain colour and in from it. */
export const dip = defineTransition({
  id: 'dip',
  name: 'Dip to colour',
  family: 'dips',
  peak: 0.5,
  hint: 'Out to a plain colour and in from it.',
  params: [colour('#000000')],
  draw(stage, t, settings) {
    const sheet = stage.begin(t < 0.5 ? stage.from : stage.to)
    stage.towards(sheet, String(settings.colour), hump(t))
  },
})
