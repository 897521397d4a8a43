import { definePicture, num, percent, pixels, preset } from '../define'
import { meanAndSpread } from '../tools/spread'

export const oil = definePicture({
  id: 'oil',
  name: 'Oil paint',
  family: 'stylise',
  hint: 'Strokes of a broad brush: each place takes the calmest colour beside it.',
  params: [pixels('brush', 'Brush', 9, 60), percent('strokes', 'Sharp strokes', 50)],
  presets: [preset('palette', 'Palette knife', { brush: 22, strokes: 80 })],
  draw(stage, settings) {
    const { engine, picture } = stage
    const { kernels } = engine
    const size = Math.max(1.5, num(settings, 'brush') * stage.scale)
    const { mean, spread } = meanAndSpread(stage, size / 2.5)
    const { width, height } = picture
    const off = Math.max(1, Math.round(size / 2))
    kernels.calmest(mean.address(), spread.address(), picture.address(), width, height, off, 0, height)
    const sharp = num(settings, 'strokes') / 100
    if (sharp > 0) {
      const soft = stage.copy()
      stage.blur(soft, size / 3, size / 3)
      kernels.unsharp(picture.address(), soft.address(), picture.address(), stage.pixels, sharp)
      soft.release()
    }
    mean.release()
    spread.release()
  },
})
