import { definePicture, num, percent, pixels, preset, seed } from '../define'
import { die } from '../tools/dice'

export const split = definePicture({
  id: 'split',
  name: 'Colour split',
  family: 'glitch',
  hint: 'Red and blue lie beside the rest.',
  params: [pixels('across', 'Across', 10, 200), pixels('down', 'Down', 0, 200)],
  presets: [preset('hair', 'A hair', { across: 3 }), preset('wide', 'Wide', { across: 28, down: 6 })],
  draw(stage, settings) {
    const { picture, engine } = stage
    const copy = stage.copy()
    const [x, y] = [num(settings, 'across'), num(settings, 'down')].map((value) => Math.round(value * stage.scale))
    engine.kernels.shiftColours(copy.address(), picture.address(), picture.width, picture.height, x!, y!, -x!, -y!)
    copy.release()
  },
})

export const tear = definePicture({
  id: 'tear',
  name: 'Torn rows',
  family: 'glitch',
  hint: 'Stripes jump sideways, anew ten times a second.',
  params: [
    pixels('distance', 'How far', 60, 600),
    percent('amount', 'How many', 35),
    pixels('height', 'Height', 18, 200),
    seed(),
  ],
  presets: [
    preset('badCable', 'Bad cable', { distance: 30, amount: 25, height: 8 }),
    preset('lost', 'Nearly lost', { distance: 180, amount: 70 }),
  ],
  draw(stage, settings) {
    const { picture, engine } = stage
    const copy = stage.copy()
    const offsets = engine.heap.allocate(picture.height * 4)
    const words = engine.heap.words(offsets, picture.height)
    const stripe = Math.max(1, Math.round(num(settings, 'height') * stage.scale))
    const moment = Math.round(num(settings, 'seed')) * 131 + Math.floor(stage.time * 10)
    for (let y = 0; y < picture.height; y++) {
      const n = Math.floor(y / stripe)
      const torn = die(n, moment) < num(settings, 'amount') / 100
      words[y] = torn ? Math.round((die(n + 7919, moment) - 0.5) * 2 * num(settings, 'distance') * stage.scale) : 0
    }
    engine.kernels.shiftRows(copy.address(), picture.address(), picture.width, picture.height, offsets)
    engine.heap.release(offsets)
    copy.release()
  },
})
