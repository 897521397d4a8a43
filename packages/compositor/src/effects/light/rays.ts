import { definePicture, num, percent, preset } from '../define'
import { about, averaged } from '../tools/averaged'
import { centreOf } from '../tools/place'
import { brightParts, shine } from './bright'

export const rays = definePicture({
  id: 'rays',
  name: 'Rays',
  family: 'light',
  hint: 'What is bright throws beams away from a point.',
  params: [
    percent('amount', 'Amount', 80, 200),
    percent('length', 'Length', 45),
    percent('from', 'From', 55),
    percent('x', 'Source across', 50, 100),
    percent('y', 'Source down', 20, 100),
  ],
  presets: [preset('throughMasts', 'Through the masts', { y: 8, length: 70 })],
  draw(stage, settings) {
    const light = brightParts(stage, num(settings, 'from') / 100)
    const at = centreOf(stage, settings)
    const length = num(settings, 'length') / 100
    // Twice, so that a few steps give smooth beams.
    averaged(stage, 12, (t) => about(at, 1 + length * (t + 0.5), 0), light)
    averaged(stage, 8, (t) => about(at, 1 + (length / 10) * (t + 0.5), 0), light)
    shine(stage, light, (num(settings, 'amount') / 100) * 1.5)
    light.release()
  },
})
