import { definePicture, num, percent, pixels, preset } from '../define'
import { meanAndSpread } from '../tools/spread'

export const softSkin = definePicture({
  id: 'softSkin',
  name: 'Soft skin',
  family: 'blur',
  hint: 'Skin becomes even; eyes, hair and edges stay.',
  params: [percent('amount', 'Amount', 70), pixels('radius', 'Radius', 7, 30), percent('only', 'Only skin', 100)],
  presets: [preset('candleLight', 'By candle light', { amount: 90, radius: 9 })],
  draw(stage, settings) {
    const { kernels } = stage.engine
    const { mean, spread } = meanAndSpread(stage, Math.max(0.8, num(settings, 'radius') * stage.scale * 0.5))
    const amount = num(settings, 'amount') / 100
    kernels.calm(
      stage.picture.address(),
      mean.address(),
      spread.address(),
      stage.pixels,
      4 + 10 * amount,
      amount,
      num(settings, 'only') / 100,
    )
    mean.release()
    spread.release()
  },
})
