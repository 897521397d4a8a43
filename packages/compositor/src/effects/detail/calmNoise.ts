import { definePicture, num, percent, pixels, preset } from '../define'
import { meanAndSpread } from '../tools/spread'

export const calmNoise = definePicture({
  id: 'calmNoise',
  name: 'Less noise',
  family: 'detail',
  hint: 'Even surfaces lose their grain, edges stay.',
  params: [percent('amount', 'Amount', 80), percent('level', 'Noise', 30), pixels('radius', 'Radius', 2.5, 10)],
  presets: [preset('nightPhone', 'Phone at night', { level: 55, radius: 4 })],
  draw(stage, settings) {
    const { mean, spread } = meanAndSpread(stage, Math.max(0.8, num(settings, 'radius') * stage.scale))
    stage.engine.kernels.calm(
      stage.picture.address(),
      mean.address(),
      spread.address(),
      stage.pixels,
      0.5 + num(settings, 'level') / 4,
      num(settings, 'amount') / 100,
      0,
    )
    mean.release()
    spread.release()
  },
})
