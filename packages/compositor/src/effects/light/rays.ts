import { power } from '@dusk/timeline'
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
    averaged(stage, 5, (t) => about(at, power(1 + length, t), 0), { from: 0, coarse: true, picture: light })
    shine(stage, light, (num(settings, 'amount') / 100) * 1.5)
    light.release()
  },
})
