import { sinCosDegrees } from '@dusk/timeline'
import { definePicture, degrees, num, percent, pixels, preset } from '../define'

export const emboss = definePicture({
  id: 'emboss',
  name: 'Pressed paper',
  family: 'stylise',
  hint: 'Light from the side shows shapes as if pressed.',
  params: [
    percent('amount', 'Amount', 90, 300),
    pixels('depth', 'Depth', 2.5, 20),
    degrees('angle', 'Light from', 225),
    percent('colour', 'Colour left', 0),
  ],
  presets: [preset('relief', 'Coloured relief', { colour: 100, amount: 60 })],
  draw(stage, settings) {
    const { engine, picture } = stage
    const [sin, cos] = sinCosDegrees(num(settings, 'angle'))
    const depth = Math.max(1, num(settings, 'depth') * stage.scale)
    const copy = stage.copy()
    engine.kernels.emboss(
      ...([copy.address(), picture.address(), picture.width, picture.height] as const),
      ...([Math.round(-cos * depth), Math.round(-sin * depth), num(settings, 'amount') / 100] as const),
      ...([num(settings, 'colour') / 100, 0, picture.height] as const),
    )
    copy.release()
  },
})
