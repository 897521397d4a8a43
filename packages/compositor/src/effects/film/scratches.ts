import { definePicture, num, number, percent, preset, seed } from '../define'
import { die, swayingDie } from '../tools/dice'

export const scratches = definePicture({
  id: 'scratches',
  name: 'Scratches',
  family: 'film',
  hint: 'Fine upright lines that wander, as on film that was shown often.',
  params: [
    percent('amount', 'Amount', 45),
    number('width', 'Width', 0.5, 6, 1.4, { unit: 'px', digits: 1, step: 0.1 }),
    percent('bright', 'Bright ones', 70),
    seed(),
  ],
  presets: [preset('lastShow', 'The last show', { amount: 85, width: 2 })],
  draw(stage, settings) {
    const { engine, picture, bounds } = stage
    const seeded = Math.round(num(settings, 'seed')) * 91
    const lines = Math.round((num(settings, 'amount') / 100) * 14)
    for (let n = 0; n < lines; n++) {
      // Each comes for a while, goes, and is somewhere else.
      const turn = stage.time / (0.6 + die(n, seeded) * 2) + die(n + 50, seeded) * 9
      const life = turn - Math.floor(turn)
      const shown = Math.min(1, 6 * Math.min(life, 0.7 - life))
      if (shown <= 0) continue
      const place = die(n * 7 + Math.floor(turn), seeded + 1)
      const sway = (swayingDie(stage.time * 3, seeded + n) - 0.5) * 0.01
      const light = die(n + 90, seeded) * 100 < num(settings, 'bright') ? 240 : 12
      engine.kernels.softDisc(
        ...([picture.address(), picture.width, picture.height] as const),
        ...([bounds.x + (place + sway) * bounds.width, bounds.y + die(n + 20, seeded) * bounds.height] as const),
        ...([
          Math.max(0.75, num(settings, 'width') * stage.scale),
          bounds.height * (0.3 + die(n + 30, seeded)),
        ] as const),
        ...([1, 0, light, light, light, 0.55 * shown, 0.9, 1] as const),
      )
    }
  },
})
