import { definePicture, num, number, percent, pixels, preset, seed } from '../define'
import { about } from '../tools/averaged'
import { swayingDie } from '../tools/dice'

export const shake = definePicture({
  id: 'shake',
  name: 'Shake',
  family: 'bend',
  hint: 'As held by hand, or as when something heavy falls.',
  params: [
    pixels('distance', 'How far', 14, 200),
    number('turn', 'Turns by', 0, 20, 0.8, { unit: '°', digits: 1, step: 0.1 }),
    number('speed', 'Times a second', 0.2, 25, 5, { digits: 1, step: 0.1 }),
    percent('grow', 'Enlarged to hide the edges', 100),
    seed(),
  ],
  presets: [
    preset('byHand', 'Held by hand', { distance: 10, speed: 1.2, turn: 0.5 }),
    preset('thud', 'Thud', { distance: 45, speed: 14, turn: 1.5 }),
  ],
  draw(stage, settings) {
    const { bounds, picture, engine, pixels: count } = stage
    const at = stage.time * num(settings, 'speed')
    const seeded = Math.round(num(settings, 'seed')) * 23
    const sway = (n: number) => (swayingDie(at, seeded + n) + swayingDie(at * 2.3, seeded + n + 9) - 1) * 0.8
    const far = num(settings, 'distance') * stage.scale
    const turn = num(settings, 'turn')
    const short = Math.min(bounds.width, bounds.height)
    // Far enough in that no edge is seen: the way it goes, and what turning takes off the corners.
    const size =
      1 +
      ((2 * far) / short + (turn * 0.0349 * Math.max(bounds.width, bounds.height)) / short) *
        (num(settings, 'grow') / 100)
    const copy = stage.copy()
    engine.kernels.fill(picture.address(), count, 0)
    const matrix = about([bounds.x + bounds.width / 2, bounds.y + bounds.height / 2], size, sway(2) * turn)
    stage.lay(copy, [...matrix.slice(0, 4), matrix[4]! + sway(0) * far, matrix[5]! + sway(1) * far], 1, picture)
    copy.release()
  },
})
