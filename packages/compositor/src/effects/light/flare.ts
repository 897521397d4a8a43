import { colour, definePicture, num, percent, preset } from '../define'
import { parts } from '../colour/tools'
import { centreOf } from '../tools/place'

/** Reflections along the way through the middle: place (0 at the lamp, 1 opposite), size, strength, warmth. */
const SPOTS = [
  [0.28, 0.05, 0.35, 0.2],
  [0.5, 0.022, 0.5, 0.9],
  [0.72, 0.09, 0.16, 0.5],
  [0.95, 0.035, 0.4, 0],
  [1.2, 0.14, 0.18, 0.7],
  [1.45, 0.06, 0.3, 0.3],
] as const

export const flare = definePicture({
  id: 'flare',
  name: 'Lamp in the lens',
  family: 'light',
  hint: 'A lamp shines into the lens: a star, a stripe, and its reflections on the other side.',
  params: [
    percent('x', 'Lamp across', 28),
    percent('y', 'Lamp down', 25),
    percent('amount', 'Amount', 70),
    percent('size', 'Size', 50),
    colour('colour', 'Colour', '#ffcf8f'),
  ],
  presets: [preset('headlamp', 'Headlamp', { colour: '#cfe0ff', amount: 90 })],
  draw(stage, settings) {
    const { engine, picture, bounds } = stage
    const [x, y] = centreOf(stage, settings)
    const [mx, my] = [bounds.x + bounds.width / 2, bounds.y + bounds.height / 2]
    const span = Math.max(bounds.width, bounds.height) * (0.4 + num(settings, 'size') / 100)
    const strength = num(settings, 'amount') / 100
    const own = parts(settings.colour).map((value) => value * 255)
    const disc = (cx: number, cy: number, rx: number, ry: number, part: number, soft: number, mix = 1) => {
      const [r, g, b] = own.map((value) => value * mix + 170 * (1 - mix))
      engine.kernels.softDisc(
        ...([picture.address(), picture.width, picture.height, cx, cy, Math.max(1, rx), Math.max(1, ry)] as const),
        ...([1, 0, r!, g!, b!, part * strength, soft, 0] as const),
      )
    }
    disc(x, y, span * 0.3, span * 0.3, 0.75, 1)
    disc(x, y, span * 0.05, span * 0.05, 1, 0.8, 0.4)
    disc(x, y, span * 0.75, span * 0.008, 0.7, 1)
    disc(x, y, span * 0.006, span * 0.16, 0.5, 1)
    for (const [along, size, part, warm] of SPOTS)
      disc(x + (mx - x) * 2 * along, y + (my - y) * 2 * along, span * size, span * size, part * 0.6, 0.35, warm)
  },
})
