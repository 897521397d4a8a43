import { atan2Degrees } from './angle'
import { preset } from '../define'
import { defineParticles, flying, particleParams } from './define'
import { streak } from './pieces'

export const rain = defineParticles({
  id: 'rain',
  name: 'Rain',
  hint: 'Streaks that fall, slanted by the wind.',
  params: particleParams({
    ...{ amount: 320, size: 90, life: 0.8, from: 'above', speed: 1700, direction: 90, spread: 0, wind: -160 },
    colours: ['#cfd8ea', '#b9c6de', '#e6ecf7'],
  }),
  presets: [
    preset('drizzle', 'Drizzle', { amount: 140, size: 46, speed: 1100, life: 1.2, opacity: 60 }),
    preset('downpour', 'Downpour', { amount: 900, size: 130, speed: 2400, wind: -420, life: 0.6 }),
  ],
  pieces: { streak },
  particles(moment) {
    const slant = atan2Degrees(-moment.of('wind'), Math.max(1, moment.of('speed')))
    return flying(moment, (n, _, roll) => ({ piece: 'streak', angle: slant, opacity: 0.25 + 0.45 * roll(n, 21) }))
  },
})
