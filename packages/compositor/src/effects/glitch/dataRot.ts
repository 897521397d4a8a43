import { definePicture, num, number, percent, pixels, preset, seed } from '../define'
import { die } from '../tools/dice'

export const dataRot = definePicture({
  id: 'dataRot',
  name: 'Data rot',
  family: 'glitch',
  hint: 'Squares of a broken file: coarse, of the wrong colour, or of another place.',
  params: [
    percent('amount', 'How much', 30),
    pixels('size', 'Squares', 48, 200),
    number('speed', 'Times a second', 1, 30, 6, { digits: 0 }),
    percent('colour', 'Wrong colours', 50),
    seed(),
  ],
  presets: [preset('halfGone', 'Half gone', { amount: 75, colour: 80 })],
  draw(stage, settings) {
    const { engine, picture } = stage
    const { kernels } = engine
    const { width, height } = picture
    const size = Math.max(4, Math.round(num(settings, 'size') * stage.scale))
    const moment = Math.round(num(settings, 'seed')) * 149 + Math.floor(stage.time * num(settings, 'speed'))
    const amount = num(settings, 'amount') / 100
    const [copy, coarse, wrong] = [stage.copy(), stage.sheet(), stage.sheet()]
    kernels.pixelate(copy.address(), coarse.address(), width, height, Math.max(2, size >> 2))
    const away = Math.max(2, size >> 1)
    kernels.shiftColours(copy.address(), wrong.address(), width, height, away, 0, -away, away >> 1)
    kernels.gainColours(wrong.address(), stage.pixels, 1.4, 0.8, 1.3)
    for (let y = 0, n = 0; y < height; y += size)
      for (let x = 0; x < width; x += size, n++) {
        // Errors come in runs along a row.
        const run = die(Math.floor(n / 5) * 3, moment)
        if (run > amount || die(n, moment + 1) > 0.75) continue
        const kind = die(n, moment + 2)
        const source = kind < num(settings, 'colour') / 200 ? wrong : kind < 0.7 ? coarse : copy
        const from = source === copy ? Math.max(0, x - size * (1 + Math.floor(die(n, moment + 3) * 4))) : x
        kernels.moveRect(source.address(), picture.address(), width, height, from, y, size, size, x, y)
      }
    for (const sheet of [copy, coarse, wrong]) sheet.release()
  },
})
