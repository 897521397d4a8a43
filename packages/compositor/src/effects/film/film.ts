import { definePicture, num, number, percent, preset, seed } from '../define'

/** Pictures a second that grain is thrown anew. */
const THROWS = 24

export const grain = definePicture({
  id: 'grain',
  name: 'Grain',
  family: 'film',
  hint: 'The grain of film, strongest in the middle tones, new in each picture.',
  params: [
    percent('amount', 'Amount', 22),
    number('size', 'Size', 0.5, 8, 1.6, { unit: 'px', digits: 1, step: 0.1 }),
    percent('colour', 'Coloured', 15),
    seed(),
  ],
  presets: [
    preset('fineGrain', 'Fine', { amount: 14, size: 1 }),
    preset('pushed', 'Pushed', { amount: 45, size: 2.4 }),
    preset('sensor', 'Night sensor', { amount: 40, size: 1, colour: 90 }),
  ],
  draw(stage, settings) {
    const moment = Math.round(num(settings, 'seed')) * 1009 + Math.floor(stage.time * THROWS)
    const size = Math.max(1, num(settings, 'size') * stage.scale)
    stage.grain(stage.picture, moment, size, num(settings, 'amount') * 1.2, num(settings, 'colour') / 100)
  },
})
