import { sinCosDegrees } from '@dusk/timeline'
import { definePicture, degrees, num, number, percent, pixels, preset } from '../define'
import type { EffectStage } from '../stage'

/** Pixels around something that a blur of this standard deviation reaches. */
const reachOf = (sigma: number) => Math.ceil(sigma * 3) + 1

export const blur = definePicture({
  id: 'blur',
  name: 'Blur',
  family: 'blur',
  hint: 'Soft all over.',
  params: [pixels('radius', 'Radius', 12, 300)],
  presets: [preset('breath', 'A breath', { radius: 3 }), preset('veil', 'Behind a veil', { radius: 40 })],
  reach: (settings, scale) => reachOf(num(settings, 'radius') * scale),
  draw(stage, settings) {
    const sigma = num(settings, 'radius') * stage.scale
    stage.blur(stage.picture, sigma, sigma)
  },
})

/** The mean of several copies of the picture, each laid by a matrix. */
function averaged(stage: EffectStage, count: number, matrixOf: (t: number) => number[]): void {
  const { engine, picture } = stage
  const { kernels, heap } = engine
  const values = stage.pixels * 4
  const sums = heap.allocate(values * 4)
  kernels.fill(sums, values, 0)
  const one = stage.sheet()
  for (let i = 0; i < count; i++) {
    kernels.fill(one.address(), stage.pixels, 0)
    stage.lay(picture, matrixOf(count === 1 ? 0 : i / (count - 1) - 0.5), 1, one)
    kernels.addUp(one.address(), sums, values)
  }
  kernels.average(sums, picture.address(), values, count)
  heap.release(sums)
  one.release()
}

export const motion = definePicture({
  id: 'motion',
  name: 'Directional blur',
  family: 'blur',
  hint: 'Drawn along a direction, as from a moving car.',
  params: [pixels('length', 'Length', 40, 600), degrees('angle', 'Angle', 0)],
  presets: [preset('passing', 'Passing by', { length: 60 }), preset('falling', 'Falling', { length: 60, angle: 90 })],
  reach: (settings, scale) => Math.ceil((num(settings, 'length') * scale) / 2) + 2,
  draw(stage, settings) {
    const length = num(settings, 'length') * stage.scale
    const [sin, cos] = sinCosDegrees(num(settings, 'angle'))
    const count = Math.min(32, Math.max(2, Math.ceil(length / 2)))
    averaged(stage, count, (t) => [1, 0, 0, 1, Math.round(cos * length * t), Math.round(sin * length * t)])
  },
})

/** Size and turning about the middle of the picture. */
function about(stage: EffectStage, settings: Record<string, unknown> | object, size: number, angle: number): number[] {
  const { x, y, width, height } = stage.bounds
  const cx = x + (width * Number((settings as Record<string, unknown>).x)) / 100
  const cy = y + (height * Number((settings as Record<string, unknown>).y)) / 100
  const [sin, cos] = sinCosDegrees(angle)
  const [a, b] = [cos * size, sin * size]
  return [a, b, -b, a, cx - a * cx + b * cy, cy - b * cx - a * cy]
}
const centre = [percent('x', 'Middle across', 50), percent('y', 'Middle down', 50)]

export const zoomBlur = definePicture({
  id: 'zoomBlur',
  name: 'Zoom blur',
  family: 'blur',
  hint: 'Rushing towards a point.',
  params: [percent('amount', 'Amount', 20), ...centre],
  draw(stage, settings) {
    const amount = num(settings, 'amount') / 100
    averaged(stage, 16, (t) => about(stage, settings, 1 + amount * (t + 0.5), 0))
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
    averaged(stage, 16, (t) => about(stage, settings, 1, angle * t))
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
