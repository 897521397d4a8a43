import { sinCosDegrees } from '@dusk/timeline'
import { preset } from '../define'
import { defineParticles, flying, particleParams } from './define'
import { petal } from './pieces'

export const petals = defineParticles({
  id: 'petals',
  name: 'Petals',
  hint: 'Blossom that sails down on the wind.',
  params: particleParams({
    ...{ amount: 90, size: 34, life: 9, from: 'above', speed: 120, direction: 90, spread: 30, sway: 70, wind: 90 },
    colours: ['#ffd3de', '#f7b0c2', '#fff0f3'],
  }),
  presets: [
    preset('autumnLeaves', 'Autumn leaves', { colour1: '#c9762d', colour2: '#a8452c', colour3: '#d9a441', size: 46 }),
  ],
  pieces: { petal },
  particles: (moment) =>
    flying(moment, (n, age, roll) => {
      const [tumble] = sinCosDegrees((((age * 900 * (0.4 + roll(n, 23)) + roll(n, 24) * 360) % 360) + 360) % 360)
      return { piece: 'petal', narrow: 0.35 + 0.65 * Math.abs(tumble) }
    }),
})
