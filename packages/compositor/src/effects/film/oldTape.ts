import { definePicture, num, percent, preset, seed } from '../define'
import { die, swayingDie } from '../tools/dice'

export const oldTape = definePicture({
  id: 'oldTape',
  name: 'Old tape',
  family: 'film',
  hint: 'Colours run sideways, rows tremble, and noise climbs at the foot.',
  params: [percent('wear', 'Wear', 50), percent('colourRun', 'Colours run', 60), percent('noise', 'Noise', 40), seed()],
  presets: [
    preset('birthday', 'Birthday of long ago', { wear: 35, colourRun: 80 }),
    preset('taped', 'Taped over', { wear: 90, noise: 80 }),
  ],
  draw(stage, settings) {
    const { engine, picture, bounds, pixels } = stage
    const { kernels, heap } = engine
    const moment = Math.round(num(settings, 'seed')) * 61 + Math.floor(stage.time * 25)
    const wear = num(settings, 'wear') / 100
    const { width, height } = picture
    // Colour has a fraction of the sharpness of brightness.
    const run = (num(settings, 'colourRun') / 100) * bounds.width * 0.012
    const soft = stage.copy()
    stage.blur(soft, run, 0)
    const shift = Math.round(run * 0.8)
    kernels.shiftColours(soft.address(), picture.address(), width, height, shift, 0, -shift, 0)
    soft.pixels().set(picture.pixels())
    // Rows that tremble, most at the foot, where the heads change.
    const offsets = heap.allocate(height * 4)
    const rows = heap.words(offsets, height)
    const gains = heap.allocate(height * 4)
    const bright = heap.floats(gains, height)
    const band = (swayingDie(stage.time * 0.4, moment >> 5) * 1.4 - 0.2) * height
    for (let y = 0; y < height; y++) {
      const foot = Math.max(0, (y - height * 0.94) / (height * 0.06))
      const near = Math.max(0, 1 - Math.abs(y - band) / (height * 0.03))
      const tremble = (die(y, moment) - 0.5) * wear * 0.004
      rows[y] = Math.round(
        (tremble + (foot * foot * 0.12 + near * 0.02 * (die(y + 9000, moment) - 0.3)) * wear) * bounds.width,
      )
      bright[y] = 1 + near * wear * 0.5 * die(y + 5000, moment) - (y % 2) * 0.05 * wear
    }
    kernels.shiftRows(soft.address(), picture.address(), width, height, offsets)
    kernels.rowGain(picture.address(), width, height, gains)
    const noise = num(settings, 'noise')
    stage.grain(picture, moment, Math.max(1, 1.5 * stage.scale), noise * 0.9, 0.6)
    kernels.towards(picture.address(), pixels, 90, 84, 110, 0.06 * wear)
    heap.release(offsets)
    heap.release(gains)
    soft.release()
  },
})
