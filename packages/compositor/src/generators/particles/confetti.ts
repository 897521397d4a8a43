import { sinCosDegrees } from '@dusk/timeline'
import { preset } from '../define'
import { defineParticles, flying, particleParams } from './define'
import { paper, softDot } from './pieces'

export const confetti = defineParticles({
  id: 'confetti',
  name: 'Confetti',
  hint: 'Coloured paper that tumbles down.',
  params: particleParams({
    ...{ amount: 240, size: 26, life: 5, from: 'above', speed: 190, direction: 90, spread: 50, gravity: 60, sway: 40 },
    colours: ['#ec7f95', '#f6d06b', '#8ea2f2'],
  }),
  presets: [
    preset('popper', 'Party popper', {
      from: 'point',
      place: [12, 92],
      direction: -58,
      spread: 40,
      speed: 1500,
      gravity: 900,
      life: 3,
    }),
    preset('lastDance', 'After the last dance', { amount: 90, speed: 90, size: 34 }),
  ],
  pieces: { paper, dot: softDot },
  particles: (moment) =>
    flying(moment, (n, age, roll) => {
      const [tumble] = sinCosDegrees((((age * 1400 * (0.4 + roll(n, 23)) + roll(n, 24) * 360) % 360) + 360) % 360)
      return { piece: roll(n, 20) < 0.8 ? 'paper' : 'dot', narrow: Math.max(0.12, Math.abs(tumble)) }
    }),
})
