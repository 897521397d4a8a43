import { definePicture, num, number, percent, pixels, preset, seed } from '../define'
import { die } from '../tools/dice'

export const blocks = definePicture({
  id: 'blocks',
  name: 'Jumping blocks',
  family: 'glitch',
  hint: 'Pieces of the picture are shown elsewhere.',
  params: [
    percent('amount', 'How many', 35),
    pixels('size', 'Size', 90, 400),
    pixels('distance', 'How far', 160, 900),
    number('speed', 'Times a second', 1, 30, 8, { digits: 0 }),
    seed(),
  ],
  presets: [preset('shuffled', 'Shuffled', { amount: 90, size: 140 })],
  draw(stage, settings) {
    const { engine, picture, bounds } = stage
    const moment = Math.round(num(settings, 'seed')) * 113 + Math.floor(stage.time * num(settings, 'speed'))
    const copy = stage.copy()
    const size = Math.max(4, num(settings, 'size') * stage.scale)
    const far = num(settings, 'distance') * stage.scale
    const count = Math.round((num(settings, 'amount') / 100) * 26)
    for (let n = 0; n < count; n++) {
      const roll = (k: number) => die(n * 19 + k, moment)
      const [w, h] = [Math.round(size * (0.5 + roll(0) * 1.5)), Math.round(size * (0.2 + roll(1) * 0.6))]
      const x = Math.round(bounds.x + roll(2) * (bounds.width - w))
      const y = Math.round(bounds.y + roll(3) * (bounds.height - h))
      const to = [Math.round(x + (roll(4) - 0.5) * 2 * far), Math.round(y + (roll(5) - 0.5) * 0.5 * far)] as const
      engine.kernels.moveRect(copy.address(), picture.address(), picture.width, picture.height, x, y, w, h, ...to)
    }
    copy.release()
  },
})
