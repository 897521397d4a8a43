import { preset } from '../define'
import { defineParticles, flying, particleParams } from './define'
import { glowDot } from './pieces'

export const sparks = defineParticles({
  id: 'sparks',
  name: 'Sparks',
  hint: 'Thrown from a point, falling, burning out.',
  params: particleParams({
    ...{ amount: 160, size: 14, life: 1.1, from: 'point', speed: 620, direction: -90, spread: 90, gravity: 900 },
    colours: ['#ffd166', '#ff9e5e', '#fff2cf'],
  }),
  presets: [
    preset('grindstone', 'Grindstone', { direction: -15, spread: 24, speed: 1100, amount: 260 }),
    preset('sparkler', 'Hand sparkler', { spread: 360, speed: 340, gravity: 200, life: 0.5, amount: 320, size: 10 }),
  ],
  pieces: { spark: glowDot },
  particles: (moment) =>
    flying(moment, (_, age) => ({ piece: 'spark', size: 1 - 0.7 * age, opacity: (1 - age) * (1 - age) })),
})
