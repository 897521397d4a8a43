import { definePicture, num, number, percent, preset, seed } from '../define'
import { centre, centreOf } from '../tools/place'
import { die } from '../tools/dice'

export const projector = definePicture({
  id: 'projector',
  name: 'Projector',
  family: 'film',
  hint: 'Thrown on a wall: brighter in the middle, trembling, and never quite white.',
  params: [
    percent('flicker', 'Flicker', 30),
    percent('fall', 'Falls off', 55),
    number('rate', 'Pictures a second', 8, 30, 18, { digits: 0 }),
    percent('warmth', 'Warm lamp', 45),
    ...centre,
    seed(),
  ],
  presets: [preset('bedSheet', 'On a bed sheet', { flicker: 50, fall: 80, warmth: 70 })],
  draw(stage, settings) {
    const { engine, picture, bounds, pixels } = stage
    const { kernels } = engine
    const moment = Math.floor(stage.time * num(settings, 'rate'))
    const trembles = 1 - (num(settings, 'flicker') / 250) * die(moment, Math.round(num(settings, 'seed')) * 29)
    const warm = num(settings, 'warmth') / 100
    kernels.gainColours(picture.address(), pixels, trembles, trembles * (1 - 0.08 * warm), trembles * (1 - 0.3 * warm))
    const [x, y] = centreOf(stage, settings)
    const fall = num(settings, 'fall') / 100
    stage.vignette(x, y, bounds.width * 0.12, bounds.height * 0.12, 5.2 - 2 * fall, -fall)
    // Black is as bright as the room.
    kernels.towards(picture.address(), pixels, 46, 38, 34, 0.08)
  },
})
