import { preset } from '../define'
import { defineParticles, flying, particleParams } from './define'
import { bubblePiece } from './pieces'

export const bubbles = defineParticles({
  id: 'bubbles',
  name: 'Bubbles',
  hint: 'Soap bubbles that rise, and burst at the end.',
  params: particleParams({
    ...{ amount: 40, size: 110, life: 7, from: 'below', speed: 190, direction: -90, spread: 40, sway: 40 },
    colours: ['#cfe4ff', '#ffd9ec', '#e3ffe9'],
  }),
  presets: [
    preset('fizz', 'Fizz', { amount: 260, size: 18, speed: 420, life: 3, sway: 8 }),
    preset('bigBubbles', 'A few large ones', { amount: 12, size: 260, speed: 110, life: 11 }),
  ],
  pieces: { bubble: bubblePiece },
  particles: (moment) =>
    flying(moment, (_, age) => ({
      ...{ piece: 'bubble', angle: 0 },
      // It swells a little before it is gone.
      size: age > 0.97 ? 1 + (age - 0.97) * 10 : 1,
      opacity: Math.min(1, age * 8, (1 - age) * 33),
    })),
})
