import { power, sinCosDegrees } from '@dusk/timeline'
import { choice, definePicture, degrees, num, number, percent, pixels, preset } from '../define'
import { about, averaged } from '../tools/averaged'
import { centre, centreOf } from '../tools/place'
import { reachOf } from './focus'

export const blur = definePicture({
  id: 'blur',
  name: 'Blur',
  family: 'blur',
  hint: 'Soft all over.',
  params: [
    pixels('radius', 'Radius', 12, 300),
    choice('edge', 'Its edges', { firm: 'Stay firm', soft: 'Are soft too' }),
  ],
  presets: [preset('breath', 'A breath', { radius: 3 }), preset('veil', 'Behind a veil', { radius: 40 })],
  reach: (settings, scale) => (settings.edge === 'soft' ? reachOf(num(settings, 'radius') * scale) : 0),
  draw(stage, settings) {
    const sigma = num(settings, 'radius') * stage.scale
    stage.blur(stage.picture, sigma, sigma)
  },
})

export const motion = definePicture({
  id: 'motion',
  name: 'Directional blur',
  family: 'blur',
  hint: 'Drawn along a direction, as from a moving car.',
  params: [pixels('length', 'Length', 40, 600), degrees('angle', 'Angle', 0)],
  presets: [preset('passing', 'Passing by', { length: 60 }), preset('falling', 'Falling', { length: 60, angle: 90 })],
  draw(stage, settings) {
    const length = num(settings, 'length') * stage.scale
    const [sin, cos] = sinCosDegrees(num(settings, 'angle'))
    const steps = Math.min(6, Math.max(2, Math.ceil(Math.sqrt(length / 2))))
    averaged(stage, steps, (t) => [1, 0, 0, 1, Math.round(cos * length * t), Math.round(sin * length * t)])
  },
})

export const zoomBlur = definePicture({
  id: 'zoomBlur',
  name: 'Zoom blur',
  family: 'blur',
  hint: 'Rushing towards a point.',
  params: [percent('amount', 'Amount', 20), ...centre],
  draw(stage, settings) {
    const amount = num(settings, 'amount') / 100
    const at = centreOf(stage, settings)
    averaged(stage, 4, (t) => about(at, power(1 + amount, t), 0), { from: 0, coarse: true })
  },
})

export const spinBlur = definePicture({
  id: 'spinBlur',
  name: 'Spinning blur',
  family: 'blur',
  hint: 'Turning about a point.',
  params: [number('angle', 'Angle', 0, 90, 12, { unit: '°', digits: 0 }), ...centre],
  draw(stage, settings) {
    const angle = num(settings, 'angle')
    averaged(stage, 4, (t) => about(centreOf(stage, settings), 1, angle * t), { coarse: true })
  },
})

export const mosaic = definePicture({
  id: 'mosaic',
  name: 'Mosaic',
  family: 'blur',
  hint: 'In squares, so that a face or a number plate is not known.',
  params: [pixels('size', 'Squares', 32, 400)],
  presets: [preset('plate', 'Number plate', { size: 22 }), preset('pixelQuay', 'Pixel quay', { size: 60 })],
  draw(stage, settings) {
    const { picture, engine } = stage
    const copy = stage.copy()
    const size = Math.max(1, Math.round(num(settings, 'size') * stage.scale))
    engine.kernels.pixelate(copy.address(), picture.address(), picture.width, picture.height, size)
    copy.release()
  },
})
