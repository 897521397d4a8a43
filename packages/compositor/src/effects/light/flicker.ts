import { definePicture, num, number, percent, preset, seed } from '../define'
import { swayingDie } from '../tools/dice'

export const flicker = definePicture({
  id: 'flicker',
  name: 'Lantern flicker',
  family: 'light',
  hint: 'Brightness wavers as in the light of a flame.',
  params: [
    percent('amount', 'Amount', 25),
    number('speed', 'Changes a second', 0.2, 20, 5, { digits: 1, step: 0.1 }),
    percent('warmth', 'Warmth', 40),
    seed(),
  ],
  presets: [
    preset('draught', 'In a draught', { amount: 45, speed: 8 }),
    preset('neonTube', 'Tired tube', { amount: 60, speed: 16, warmth: 0 }),
  ],
  draw(stage, settings) {
    const seeded = Math.round(num(settings, 'seed')) * 53
    const at = stage.time * num(settings, 'speed')
    const wavers = swayingDie(at, seeded) * 0.65 + swayingDie(at * 2.7, seeded + 1) * 0.35
    const by = 1 - (num(settings, 'amount') / 100) * wavers
    // A flame that sinks is redder.
    const warm = (1 - by) * (num(settings, 'warmth') / 100)
    const { kernels } = stage.engine
    kernels.gainColours(stage.picture.address(), stage.pixels, by + warm * 0.35, by - warm * 0.1, by - warm * 0.6)
  },
})
