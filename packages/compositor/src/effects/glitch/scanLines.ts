import { definePicture, num, number, percent, pixels, preset } from '../define'

export const scanLines = definePicture({
  id: 'scanLines',
  name: 'Scan lines',
  family: 'glitch',
  hint: 'Dark rows, and a brighter bar that rolls through.',
  params: [
    pixels('distance', 'Between rows', 4, 40),
    percent('dark', 'How dark', 45),
    percent('bar', 'Rolling bar', 25),
    number('speed', 'Bars a second', 0, 4, 0.3, { digits: 2, step: 0.01 }),
  ],
  presets: [preset('monitor', 'Guard’s monitor', { distance: 3, dark: 35, bar: 45 })],
  draw(stage, settings) {
    const { engine, picture } = stage
    const { width, height } = picture
    const step = Math.max(2, Math.round(num(settings, 'distance') * stage.scale))
    const dark = num(settings, 'dark') / 100
    const bar = num(settings, 'bar') / 100
    const at = (stage.time * num(settings, 'speed')) % 1
    const gains = engine.heap.allocate(height * 4)
    const rows = engine.heap.floats(gains, height)
    for (let y = 0; y < height; y++) {
      const apart = Math.abs(((((y / height - at) % 1) + 1.5) % 1) - 0.5)
      const near = Math.max(0, 1 - apart / 0.12)
      rows[y] = (y % step < step / 2 ? 1 : 1 - dark) * (1 + bar * near * near)
    }
    engine.kernels.rowGain(picture.address(), width, height, gains)
    engine.heap.release(gains)
  },
})
