import { defineTransition, colour } from '../define'

/** A burst of light hides the cut. */
export const flash = defineTransition({
  id: 'flash',
  name: 'Flash',
  family: 'dips',
  peak: 0.3,
  hint: 'A burst of light hides the cut.',
  params: [colour('#fff4dc')],
  draw(stage, t, settings) {
    const sheet = stage.begin(t < 0.3 ? stage.from : stage.to)
    stage.light(sheet, String(settings.colour), t < 0.3 ? t / 0.3 : ((1 - t) / 0.7) * ((1 - t) / 0.7))
  },
})
