import { preset } from '../define'
import { defineParticles, flying, particleParams } from './define'
import { flake, softDot } from './pieces'

export const snow = defineParticles({
  id: 'snow',
  name: 'Snow',
  hint: 'Flakes that sink and sway; near ones are larger.',
  params: particleParams({
    ...{ amount: 260, size: 22, life: 9, from: 'above', speed: 130, direction: 90, spread: 30, sway: 26, wind: 12 },
    colours: ['#ffffff', '#eef2ff', '#dfe6f7'],
  }),
  presets: [
    preset('gentleSnow', 'Gentle snow', { amount: 140, speed: 90 }),
    preset('snowstorm', 'Snowstorm', { amount: 800, speed: 420, wind: 520, size: 16, life: 5 }),
  ],
  pieces: { flake, dot: softDot },
  particles: (moment) =>
    flying(moment, (n, _, roll) => ({
      piece: roll(n, 20) < 0.5 ? 'flake' : 'dot',
      opacity: 0.45 + 0.55 * roll(n, 21),
    })),
})
