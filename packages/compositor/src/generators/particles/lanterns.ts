import { preset } from '../define'
import { defineParticles, flying, particleParams } from './define'
import { lanternPiece } from './pieces'

export const lanterns = defineParticles({
  id: 'lanterns',
  name: 'Lantern lights',
  hint: 'Paper lanterns that rise into the evening, each with its flame.',
  params: particleParams({
    ...{ amount: 26, size: 150, life: 22, from: 'below', speed: 70, direction: -90, spread: 26, sway: 30, wind: 12 },
    colours: ['#ff9e5e', '#ffb46e', '#f6d06b'],
  }),
  presets: [
    preset('farLanterns', 'Far away', { amount: 90, size: 46, speed: 30 }),
    preset('onTheWater', 'On the water', {
      from: 'line',
      place: [0, 78],
      end: [100, 92],
      speed: 26,
      direction: 0,
      spread: 60,
      sway: 6,
    }),
  ],
  pieces: { lantern: lanternPiece },
  particles: (moment) =>
    flying(moment, (n, age, roll) => {
      const flicker = 0.85 + 0.15 * roll(n + Math.floor(moment.time * 9) * 17, 22)
      return {
        piece: 'lantern',
        angle: (roll(n, 25) - 0.5) * 8,
        opacity: flicker * Math.min(1, age * 12, (1 - age) * 6),
      }
    }),
})
