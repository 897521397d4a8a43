import { sinCosDegrees } from '@dusk/timeline'
import { definePicture, degrees, num, percent, pixels, preset } from '../define'
import { softBeyond } from './focus'

export const tiltShift = definePicture({
  id: 'tiltShift',
  name: 'Sharp stripe',
  family: 'blur',
  hint: 'Sharp along a stripe and soft on both sides of it, so that a harbour looks like a model.',
  params: [
    pixels('radius', 'Radius', 18, 150),
    percent('place', 'Where', 55),
    percent('width', 'Sharp part', 18),
    percent('softness', 'Softness', 25),
    degrees('angle', 'Angle', 0),
  ],
  presets: [preset('modelQuay', 'Model of the quay', { radius: 22, width: 14 })],
  draw(stage, settings) {
    const { bounds, engine, picture } = stage
    const [sin, cos] = sinCosDegrees(num(settings, 'angle'))
    const middle = [bounds.x + bounds.width / 2, bounds.y + bounds.height * (num(settings, 'place') / 100)]
    const half = (bounds.height * num(settings, 'width')) / 200
    const soft = Math.max(1, (bounds.height * num(settings, 'softness')) / 100)
    softBeyond(stage, num(settings, 'radius') * stage.scale, half, soft, (distance) => {
      engine.kernels.slopeDistance(distance, picture.width, picture.height, middle[0]!, middle[1]!, -sin, cos, 2)
    })
  },
})
