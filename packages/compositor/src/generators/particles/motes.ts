import { preset } from '../define'
import { defineParticles, flying, particleParams } from './define'
import { softDot } from './pieces'

export const motes = defineParticles({
  id: 'motes',
  name: 'Dust in the light',
  hint: 'Fine dust that hangs and drifts.',
  params: particleParams({
    ...{ amount: 180, size: 9, life: 8, from: 'everywhere', speed: 14, direction: -60, spread: 360, sway: 18, wind: 6 },
    colours: ['#fff2d6', '#ffe2b0', '#ffffff'],
  }),
  presets: [
    preset('attic', 'Attic window', { amount: 320, size: 7 }),
    preset('outOfFocus', 'Out of focus', { amount: 40, size: 90, opacity: 30 }),
  ],
  pieces: { mote: softDot },
  particles: (moment) =>
    flying(moment, (n, age, roll) => ({
      piece: 'mote',
      opacity: (0.15 + 0.5 * roll(n, 21)) * Math.min(1, age * 3, (1 - age) * 3),
    })),
})
