import { definePicture, num, percent, preset, seed } from '../define'
import { bent } from '../tools/bent'
import { die } from '../tools/dice'

export const drops = definePicture({
  id: 'drops',
  name: 'Drops on the glass',
  family: 'bend',
  hint: 'Rain on the pane before the camera; each drop shows the picture upside down, and some run.',
  params: [percent('amount', 'Amount', 40), percent('size', 'Size', 45), percent('run', 'Run down', 40), seed()],
  presets: [preset('cloudburst', 'Cloudburst', { amount: 90, run: 80 })],
  draw(stage, settings) {
    const { bounds } = stage
    const seeded = Math.round(num(settings, 'seed')) * 67
    const count = Math.round((num(settings, 'amount') / 100) * 90)
    const most = (Math.min(bounds.width, bounds.height) * (8 + num(settings, 'size'))) / 1400
    const list = Array.from({ length: count }, (_, n) => {
      const roll = (k: number) => die(n * 17 + k, seeded)
      const radius = most * (0.3 + roll(0) * roll(0))
      const runs = roll(1) < num(settings, 'run') / 100
      const fallen = runs ? ((stage.time * (0.06 + roll(2) * 0.25)) % 1.2) - 0.1 : 0
      return {
        x: bounds.x + roll(3) * bounds.width,
        y: bounds.y + ((roll(4) + fallen) % 1.1) * bounds.height,
        rx: radius,
        ry: radius * (runs ? 1.35 : 1.1),
      }
    }).sort((a, b) => a.y - b.y)
    bent(
      stage,
      (x, y) => {
        for (const drop of list) {
          const [u, v] = [(x - drop.x) / drop.rx, (y - drop.y) / drop.ry]
          const far = u * u + v * v
          if (far >= 1) continue
          // A drop is a strong lens: all of a wide view lies in it, turned round.
          const by = -(2.6 + 2 * far)
          return [drop.x + u * by * drop.rx, drop.y + v * by * drop.ry]
        }
        return [x, y]
      },
      { fine: 3 },
    )
  },
})
