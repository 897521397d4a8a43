import { preset } from '../define'
import { defineParticles, flying, particleParams } from './define'
import { glowDot } from './pieces'

export const embers = defineParticles({
  id: 'embers',
  name: 'Embers',
  hint: 'Glowing bits that rise from a fire, and flicker.',
  params: particleParams({
    ...{ amount: 110, size: 16, life: 4.5, from: 'below', speed: 260, direction: -90, spread: 60, sway: 34, wind: 40 },
    colours: ['#ff7a3c', '#ffb46e', '#ffd9a0'],
  }),
  presets: [preset('campfire', 'Camp fire', { from: 'point', place: [50, 95], spread: 70, amount: 90, life: 3 })],
  pieces: { ember: glowDot },
  particles: (moment) =>
    flying(moment, (n, age, roll) => {
      const flicker = 0.6 + 0.4 * roll(n + Math.floor(moment.time * 12) * 13, 22)
      return { piece: 'ember', size: 1 - 0.5 * age, opacity: flicker * Math.min(1, age * 8, (1 - age) * 2) }
    }),
})
