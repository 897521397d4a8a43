import { clamp } from '../colour/tools'
import { definePicture, num, number, percent, pixels, preset } from '../define'

export const pixelQuay = definePicture({
  id: 'pixelQuay',
  name: 'Pixel quay',
  family: 'stylise',
  hint: 'Large squares and few colours, as on an early home computer.',
  params: [
    pixels('size', 'Squares', 14, 120),
    number('steps', 'Steps a colour', 2, 12, 5, { digits: 0 }),
    percent('scan', 'Rows between', 0),
  ],
  presets: [preset('handheld', 'Pocket game', { size: 22, steps: 3 })],
  draw(stage, settings) {
    const { engine, picture } = stage
    const size = Math.max(1, Math.round(num(settings, 'size') * stage.scale))
    const { width, height } = picture
    const copy = stage.copy()
    engine.kernels.pixelate(copy.address(), picture.address(), width, height, size)
    copy.release()
    const last = Math.round(num(settings, 'steps')) - 1
    stage.recolour(`steps ${last}`, (rgb) => {
      for (let c = 0; c < 3; c++) rgb[c] = Math.round(clamp(rgb[c]!) * last) / last
    })
    const scan = num(settings, 'scan') / 100
    if (scan === 0 || size < 3) return
    const gains = engine.heap.allocate(height * 4)
    const rows = engine.heap.floats(gains, height)
    for (let y = 0; y < height; y++) rows[y] = y % size === size - 1 ? 1 - scan : 1
    engine.kernels.rowGain(picture.address(), width, height, gains)
    engine.heap.release(gains)
  },
})
