import { definePicture, num, percent, preset, seed } from '../define'
import { die } from '../tools/dice'

/** Pictures a second in which other specks are seen. */
const THROWS = 12

export const dust = definePicture({
  id: 'dust',
  name: 'Dust',
  family: 'film',
  hint: 'Specks and hairs that lay on the film.',
  params: [percent('amount', 'Amount', 40), percent('size', 'Size', 40), percent('bright', 'Bright ones', 30), seed()],
  presets: [preset('fromTheLoft', 'From the loft', { amount: 80, size: 60 })],
  draw(stage, settings) {
    const { engine, picture, bounds } = stage
    const moment = Math.round(num(settings, 'seed')) * 71 + Math.floor(stage.time * THROWS)
    const count = Math.round((num(settings, 'amount') / 100) * 40 * (0.4 + die(1, moment)))
    const most = (Math.min(bounds.width, bounds.height) * (2 + num(settings, 'size') / 10)) / 1000
    for (let n = 0; n < count; n++) {
      const roll = (k: number) => die(n * 13 + k, moment)
      const hair = roll(5) < 0.12
      const size = Math.max(0.8, most * (0.3 + roll(2)))
      const light = roll(3) < num(settings, 'bright') / 100 ? 235 : 18
      // A hair is a speck drawn long.
      const angle = roll(4)
      const turn = Math.sqrt(1 - angle * angle)
      engine.kernels.softDisc(
        ...([picture.address(), picture.width, picture.height] as const),
        ...([bounds.x + roll(0) * bounds.width, bounds.y + roll(1) * bounds.height] as const),
        ...([hair ? size * 6 : size, hair ? Math.max(0.8, size * 0.25) : size * (0.6 + roll(6) * 0.4)] as const),
        ...([angle, turn, light, light, light, 0.4 + roll(7) * 0.5, 0.5, 1] as const),
      )
    }
  },
})
