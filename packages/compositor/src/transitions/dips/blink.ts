import { colourWord } from '../../colour'
import { defineTransition, colour } from '../define'
import { hump } from '../maths'

/** Two lids close over the picture and open on the next. */
export const blink = defineTransition({
  id: 'blink',
  name: 'Blink',
  family: 'dips',
  peak: 0.5,
  hint: 'Two lids close over the picture and open on the next.',
  ease: 'both',
  params: [colour('#0b0810')],
  draw(stage, t, settings) {
    const sheet = stage.copy(t < 0.5 ? stage.from : stage.to)
    const lid = stage.sheet()
    stage.engine.kernels.fill(lid.address(), stage.width * stage.height, colourWord(String(settings.colour)))
    stage.wipe('blink', (_x, y) => Math.abs(2 * y - 1), 1 - hump(t), { softness: 18 }, lid, sheet)
  },
})
