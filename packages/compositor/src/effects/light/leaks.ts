import { sinCosDegrees } from '@dusk/timeline'
import { colour, definePicture, num, number, percent, preset, seed } from '../define'
import { parts } from '../colour/tools'
import { die, swayingDie } from '../tools/dice'

export const leaks = definePicture({
  id: 'leaks',
  name: 'Light leaks',
  family: 'light',
  hint: 'Light that has got into the camera wanders over the edges.',
  params: [
    percent('amount', 'Amount', 60),
    percent('size', 'Size', 55),
    number('speed', 'Changes a second', 0, 5, 0.5, { digits: 2, step: 0.01 }),
    colour('first', 'Colour', '#ff7a3c'),
    colour('second', 'and colour', '#ffd166'),
    seed(),
  ],
  presets: [
    preset('oldCamera', 'Camera from the attic', { amount: 80, size: 70 }),
    preset('roseEdge', 'Rose at the edge', { first: '#ec7f95', second: '#8ea2f2', amount: 45 }),
  ],
  draw(stage, settings) {
    const { engine, picture, bounds } = stage
    const at = stage.time * num(settings, 'speed')
    const seeded = Math.round(num(settings, 'seed')) * 37
    const span = Math.max(bounds.width, bounds.height) * (0.25 + num(settings, 'size') / 120)
    const tones = [parts(settings.first), parts(settings.second)]
    for (let n = 0; n < 5; n++) {
      // Each keeps to one side of the picture and sways along it.
      const side = Math.floor(die(n, seeded) * 4)
      const along = swayingDie(at, seeded + n * 11 + 1)
      const into = swayingDie(at * 0.7, seeded + n * 11 + 2) * 0.25 - 0.12
      const [u, v] =
        side === 0 ? [into, along] : side === 1 ? [1 - into, along] : side === 2 ? [along, into] : [along, 1 - into]
      const [sin, cos] = sinCosDegrees(die(n + 40, seeded) * 180)
      const [r, g, b] = tones[n % 2]!
      const strength = (num(settings, 'amount') / 100) * (0.25 + 0.75 * swayingDie(at * 1.3, seeded + n * 11 + 3))
      engine.kernels.softDisc(
        ...([picture.address(), picture.width, picture.height] as const),
        ...([bounds.x + bounds.width * u!, bounds.y + bounds.height * v!, span, span * 0.45, cos, sin] as const),
        ...([r * 255, g * 255, b * 255, strength, 1, 0] as const),
      )
    }
  },
})
