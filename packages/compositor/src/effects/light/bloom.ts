import { colour, definePicture, num, percent, pixels, preset } from '../define'
import { parts } from '../colour/tools'
import { brightParts, shine } from './bright'

export const bloom = definePicture({
  id: 'bloom',
  name: 'Bloom',
  family: 'light',
  hint: 'Lamps have a coloured halo, tight and wide at once.',
  params: [
    percent('amount', 'Amount', 60, 200),
    pixels('radius', 'Radius', 90, 300),
    percent('from', 'From', 60),
    colour('colour', 'Halo', '#ffb46e'),
  ],
  presets: [preset('fogLamps', 'Lamps in fog', { amount: 110, radius: 160, from: 45 })],
  reach: (settings, scale) => Math.ceil(num(settings, 'radius') * scale * 2),
  draw(stage, settings) {
    const { kernels } = stage.engine
    const light = brightParts(stage, num(settings, 'from') / 100)
    const amount = num(settings, 'amount') / 100
    const [r, g, b] = parts(settings.colour)
    for (const [size, part, tinted] of [
      [0.12, 0.55, false],
      [1, 0.9, true],
    ] as const) {
      const sigma = num(settings, 'radius') * stage.scale * size
      stage.blur(light, sigma, sigma)
      if (tinted) kernels.gainColours(light.address(), stage.pixels, r * 1.6, g * 1.6, b * 1.6)
      shine(stage, light, amount * part)
    }
    light.release()
  },
})
