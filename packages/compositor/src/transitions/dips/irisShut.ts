import { colourWord } from '../../colour'
import { defineTransition, softness, colour } from '../define'
import { hump } from '../maths'
import { circle } from '../shapes'

/** A round opening closes on the old picture and opens on the new. */
export const irisShut = defineTransition({
  id: 'irisShut',
  name: 'Iris shut',
  family: 'dips',
  peak: 0.5,
  hint: 'A round opening closes on the old picture and opens on the new.',
  ease: 'both',
  params: [colour('#0b0810'), softness(2)],
  draw(stage, t, settings) {
    const sheet = t < 0.5 ? stage.from : stage.to
    const dark = stage.sheet()
    stage.engine.kernels.fill(dark.address(), stage.width * stage.height, colourWord(String(settings.colour)))
    stage.wipe('irisShut', circle, 1 - hump(t), { softness: Number(settings.softness) }, dark, sheet)
  },
})
