import { sinCosDegrees } from '@dusk/timeline'
import { preset } from '../define'
import { defineParticles, particleParams, type Moment, type Particle } from './define'
import { glowDot } from './pieces'

/** Sparks of a burst, and seconds that a rocket climbs. */
const SPARKS = 70
const CLIMB = 0.9

/** One rocket: it climbs, bursts, and its sparks fall and fade. */
function rocket(moment: Moment, n: number, age: number): Particle[] {
  const { of, roll, width, height, colours } = moment
  const [x, top] = [width * (0.15 + 0.7 * roll(n, 1)), height * (0.12 + 0.34 * roll(n, 2))]
  const hex = colours[Math.floor(roll(n, 8) * colours.length)]!
  const base = { piece: 'spark', colour: hex, angle: 0, narrow: 1 }
  if (age < CLIMB) {
    const t = age / CLIMB
    const y = height + (top - height) * (1 - (1 - t) * (1 - t))
    return [{ ...base, x, y, size: of('size') * 0.8, opacity: 0.8 * (1 - t * 0.5) }]
  }
  const since = age - CLIMB
  const life = of('life')
  const part = since / life
  if (part >= 1) return []
  const found: Particle[] = []
  for (let k = 0; k < SPARKS; k++) {
    const own = n * 97 + k
    const [sin, cos] = sinCosDegrees(roll(own, 3) * 360)
    // As in a ball: fewer fly straight to the side.
    const speed = of('speed') * Math.sqrt(roll(own, 4)) * (0.9 + 0.2 * roll(own, 5))
    // Air slows them down: the way is an integral of a speed that falls off.
    const way = (speed * (1 - 1 / (1 + since * 2.2))) / 2.2
    const twinkle = roll(own + Math.floor(moment.time * 18) * 7, 9) * 0.5 + 0.5
    found.push({
      ...base,
      ...{ x: x + cos * way + of('wind') * since * 0.3, y: top + sin * way + (of('gravity') * since * since) / 2 },
      ...{ size: of('size') * (1 - 0.6 * part), opacity: (1 - part) * (1 - part) * twinkle * (of('opacity') / 100) },
    })
  }
  return found
}

export const fireworks = defineParticles({
  id: 'fireworks',
  name: 'Fireworks',
  hint: 'Rockets that climb and burst.',
  params: particleParams({
    ...{ amount: 5, size: 20, life: 1.8, from: 'everywhere', speed: 900, direction: 0, spread: 360, gravity: 130 },
    colours: ['#ff9e5e', '#8ea2f2', '#f6d06b'],
  }).filter(({ key }) => !['from', 'place', 'end', 'direction', 'spread', 'sway', 'turning', 'differ'].includes(key)),
  presets: [
    preset('finale', 'Finale', { amount: 14, speed: 1150 }),
    preset('oneRocket', 'One by one', { amount: 2, speed: 1000, life: 2.4 }),
  ],
  pieces: { spark: glowDot },
  particles(moment) {
    const round = CLIMB + moment.of('life')
    return Array.from({ length: Math.min(30, Math.round(moment.of('amount'))) }, (_, slot) => {
      const since = moment.time / round + moment.roll(slot, 12)
      const turn = Math.floor(since)
      return rocket(moment, slot + turn * 7919, (since - turn) * round)
    }).flat()
  },
})
