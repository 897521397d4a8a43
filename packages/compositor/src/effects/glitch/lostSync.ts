import { definePicture, num, number, percent, preset, seed } from '../define'
import { die, swayingDie } from '../tools/dice'

export const lostSync = definePicture({
  id: 'lostSync',
  name: 'Lost sync',
  family: 'glitch',
  hint: 'The picture rolls through and slants, as on a set that does not hold it.',
  params: [
    number('roll', 'Rolls a second', -4, 4, 0.5, { digits: 2, step: 0.01 }),
    percent('slant', 'Slant', 30),
    percent('jitter', 'Jitter', 25),
    seed(),
  ],
  presets: [preset('hold', 'Out of hold', { roll: 0.15, slant: 80, jitter: 60 })],
  draw(stage, settings) {
    const { engine, picture, bounds } = stage
    const { kernels, heap } = engine
    const { width, height } = picture
    const seeded = Math.round(num(settings, 'seed')) * 41
    const rolled = Math.round(((((stage.time * num(settings, 'roll')) % 1) + 1) % 1) * bounds.height)
    const copy = stage.copy()
    const [x, y] = [Math.floor(bounds.x), Math.floor(bounds.y)]
    const [w, h] = [Math.ceil(bounds.width), Math.ceil(bounds.height)]
    const move = (from: number, rows: number, to: number) =>
      kernels.moveRect(copy.address(), picture.address(), width, height, x, y + from, w, rows, x, y + to)
    move(0, h - rolled, rolled)
    move(h - rolled, rolled, 0)
    copy.pixels().set(picture.pixels())
    const offsets = heap.allocate(height * 4)
    const words = heap.words(offsets, height)
    const slant = (num(settings, 'slant') / 100) * (swayingDie(stage.time * 0.9, seeded) - 0.5) * bounds.width * 0.5
    const jitter = (num(settings, 'jitter') / 100) * bounds.width * 0.01
    const moment = seeded + Math.floor(stage.time * 25)
    for (let row = 0; row < height; row++) {
      const t = (row - bounds.y) / bounds.height
      words[row] = Math.round(slant * (t - 0.5) * (1 + t) + (die(row >> 1, moment) - 0.5) * jitter)
    }
    kernels.shiftRows(copy.address(), picture.address(), width, height, offsets)
    heap.release(offsets)
    copy.release()
  },
})
