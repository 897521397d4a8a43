import { definePicture, num, percent, pixels, preset, seed } from '../define'
import { die } from '../tools/dice'

export const crystal = definePicture({
  id: 'crystal',
  name: 'Crystal',
  family: 'stylise',
  hint: 'In irregular cells of one colour each, as in leaded glass.',
  params: [
    pixels('size', 'Cells', 28, 200),
    percent('irregular', 'Irregular', 80),
    percent('seam', 'Seams', 20),
    seed(),
  ],
  presets: [preset('chapelGlass', 'Chapel window', { size: 60, seam: 70 })],
  draw(stage, settings) {
    const { engine, picture } = stage
    const { width, height } = picture
    const size = Math.max(2, Math.round(num(settings, 'size') * stage.scale))
    const columns = Math.ceil(width / size) + 3
    const rows = Math.ceil(height / size) + 3
    const sites = engine.heap.allocate(columns * rows * 8)
    const values = engine.heap.floats(sites, columns * rows * 2)
    const loose = num(settings, 'irregular') / 100
    const seeded = Math.round(num(settings, 'seed')) * 43
    for (let j = 0, i = 0; j < rows; j++)
      for (let k = 0; k < columns; k++, i += 2) {
        values[i] = (k - 0.5 + (die(i, seeded) - 0.5) * loose) * size
        values[i + 1] = (j - 0.5 + (die(i + 1, seeded) - 0.5) * loose) * size
      }
    const soft = stage.copy()
    stage.blur(soft, size / 5, size / 5)
    const seam = (num(settings, 'seam') / 100) * size * 0.3
    engine.kernels.cells(
      ...([soft.address(), picture.address(), width, height, sites, columns, size, seam, 0, height] as const),
    )
    soft.release()
    engine.heap.release(sites)
  },
})
