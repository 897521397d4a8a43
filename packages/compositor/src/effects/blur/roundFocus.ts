import { definePicture, num, percent, pixels, preset } from '../define'
import { centre, centreOf } from '../tools/place'
import { softBeyond } from './focus'

export const roundFocus = definePicture({
  id: 'roundFocus',
  name: 'Round focus',
  family: 'blur',
  hint: 'Sharp about a point and soft away from it.',
  params: [
    pixels('radius', 'Radius', 20, 150),
    percent('size', 'Sharp part', 35, 150),
    percent('softness', 'Softness', 45, 150),
    ...centre,
  ],
  presets: [preset('oneFace', 'One face', { size: 22, softness: 30, radius: 26 })],
  draw(stage, settings) {
    const { bounds, engine, picture } = stage
    const [x, y] = centreOf(stage, settings)
    const half = Math.min(bounds.width, bounds.height) / 2
    const inner = (half * num(settings, 'size')) / 100
    const soft = Math.max(1, (half * num(settings, 'softness')) / 100)
    softBeyond(stage, num(settings, 'radius') * stage.scale, inner, soft, (distance) =>
      engine.kernels.slopeDistance(distance, picture.width, picture.height, x, y, 0, 0, 1),
    )
  },
})
