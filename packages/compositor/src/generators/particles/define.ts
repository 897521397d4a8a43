import { sinCosDegrees, TICKS_PER_SECOND, type Param } from '@dusk/timeline'
import { die } from '../../effects/tools/dice'
import {
  colour,
  defineGenerator,
  number,
  type GeneratorKind,
  type GeneratorPreset,
  type Settings,
  type Sheet,
} from '../define'

/** One particle at a moment, in reel pixels. */
export interface Particle {
  /** Which of the pieces it looks like. */
  piece: string
  colour: string
  x: number
  y: number
  /** Width of its piece in pixels. */
  size: number
  /** Degrees, and how much narrower it is: what tumbles is seen from the side. */
  angle: number
  narrow: number
  /** 0 to 1. */
  opacity: number
}

/** A die with two sides to it: which particle, and what is asked of it. */
export type Roll = (n: number, what: number) => number

/** A moment of what a kind of particle does. */
export interface Moment {
  settings: Settings
  /** Seconds since the clip's beginning. */
  time: number
  width: number
  height: number
  roll: Roll
  /** A setting as a number. */
  of: (key: string) => number
  colours: readonly string[]
}

export interface ParticleKind {
  id: string
  name: string
  hint: string
  params: readonly Param[]
  presets: readonly GeneratorPreset[]
  /** Draws a piece within a square about the middle, `side` pixels wide. */
  pieces: Record<string, (sheet: Sheet, side: number, hex: string) => void>
  particles(moment: Moment): Particle[]
}

const point = (key: string, label: string, initial: readonly [number, number]): Param => ({
  ...{ kind: 'point', key, label, min: -50, max: 150, default: initial, unit: '%', digits: 0 },
})

/** What every kind of particle has; `initial` says how it ships. */
export function particleParams(initial: {
  amount: number
  size: number
  life: number
  from: 'everywhere' | 'above' | 'below' | 'point' | 'line'
  speed: number
  direction: number
  spread: number
  gravity?: number
  wind?: number
  sway?: number
  colours: readonly [string, string, string]
}): Param[] {
  const froms = { everywhere: 'Everywhere', above: 'Above', below: 'Below', point: 'A point', line: 'A line' }
  const list = Object.entries(froms).map(([value, label]) => ({ value, label }))
  return [
    number('amount', 'Amount', 0, 1000, initial.amount),
    number('size', 'Size', 1, 400, initial.size, 'px'),
    number('differ', 'Sizes differ', 0, 100, 55, '%'),
    number('life', 'Life', 0.2, 60, initial.life, 's'),
    { kind: 'choice', key: 'from', label: 'From', default: initial.from, options: list, fixed: true },
    point('place', 'Place', [50, 50]),
    point('end', 'End of the line', [80, 50]),
    number('speed', 'Speed', 0, 4000, initial.speed, 'px/s'),
    number('direction', 'Direction', -360, 360, initial.direction, '°'),
    number('spread', 'Spread', 0, 360, initial.spread, '°'),
    number('gravity', 'Gravity', -2000, 2000, initial.gravity ?? 0, 'px/s²'),
    number('wind', 'Wind', -2000, 2000, initial.wind ?? 0, 'px/s'),
    number('sway', 'Sway', 0, 400, initial.sway ?? 0, 'px'),
    number('turning', 'Turning', 0, 720, 60, '°/s'),
    number('opacity', 'Opacity', 0, 100, 100, '%'),
    ...initial.colours.map((hex, i) => colour(`colour${i + 1}`, `Colour ${i + 1}`, hex)),
    number('seed', 'Variation', 0, 999, 1),
  ]
}

/** Most particles that are drawn at a time. */
const MOST = 1000

/** Where a particle begins. */
function begin({ of, settings, width, height, roll }: Moment, n: number): [number, number] {
  const [x, y] = [width * roll(n, 1), height * roll(n, 2)]
  const at = (key: string): [number, number] => {
    const [px, py] = settings[key] as readonly [number, number]
    return [(width * px) / 100, (height * py) / 100]
  }
  const out = of('size') * 2
  switch (settings.from) {
    case 'above':
      return [width * (roll(n, 1) * 1.4 - 0.2), -out]
    case 'below':
      return [width * (roll(n, 1) * 1.2 - 0.1), height + out]
    case 'point':
      return at('place')
    case 'line': {
      const [[ax, ay], [bx, by]] = [at('place'), at('end')]
      const t = roll(n, 1)
      return [ax + (bx - ax) * t, ay + (by - ay) * t]
    }
    default:
      return [x, y]
  }
}

/** Turns any angle into one from 0 to 360: sine and cosine of far ones lose their exactness. */
const around = (degrees: number) => ((degrees % 360) + 360) % 360

/**
 * Particles that each live for a while, fly as a thrown thing does, and begin anew elsewhere. Everything follows from
 * the moment and the dice: nothing depends on what was drawn before.
 * @param look what each looks like at its age, 0 (new) to 1 (gone)
 */
export function flying(
  moment: Moment,
  look: (n: number, age: number, roll: Roll) => Partial<Particle> & { piece: string },
): Particle[] {
  const { of, time, roll, colours } = moment
  const count = Math.min(MOST, Math.round(of('amount')))
  const found: Particle[] = []
  for (let slot = 0; slot < count; slot++) {
    const life = Math.max(0.05, of('life') * (0.7 + 0.6 * roll(slot, 11)))
    const since = time / life + roll(slot, 12)
    const turn = Math.floor(since)
    const part = since - turn
    // Another throw of all dice each time it begins anew.
    const n = slot + turn * 7919
    const age = part * life
    const [x0, y0] = begin(moment, n)
    const [sin, cos] = sinCosDegrees(around(of('direction') + (roll(n, 3) - 0.5) * of('spread')))
    const speed = of('speed') * (0.6 + 0.8 * roll(n, 4))
    const [swaying] = sinCosDegrees(around(age * 140 * (0.5 + roll(n, 5)) + roll(n, 6) * 360))
    const seen = look(n, part, roll)
    const size = of('size') * (1 - (of('differ') / 100) * roll(n, 7)) * (seen.size ?? 1)
    found.push({
      ...{ colour: colours[Math.floor(roll(n, 8) * colours.length)] ?? colours[0]!, narrow: 1 },
      angle: around((roll(n, 9) - 0.5) * 360 + age * of('turning') * (roll(n, 10) < 0.5 ? -1 : 1)),
      ...seen,
      x: x0 + cos * speed * age + of('wind') * age + swaying * of('sway'),
      y: y0 + sin * speed * age + (of('gravity') * age * age) / 2,
      size,
      opacity: (seen.opacity ?? fading(part)) * (of('opacity') / 100),
    })
  }
  return found
}

/** Comes within a tenth of a life, goes within the last quarter. */
export const fading = (age: number): number => Math.min(1, age * 10, (1 - age) * 4)

/** Largest and smallest side that pieces are drawn at; others are enlarged or made smaller from these. */
const DRAWN = [16, 48, 160] as const

export function defineParticles(kind: ParticleKind): GeneratorKind {
  const made = defineGenerator({
    ...{
      id: kind.id,
      name: kind.name,
      family: 'particles',
      hint: kind.hint,
      params: kind.params,
      presets: kind.presets,
    },
    draw() {},
  })
  return {
    ...made,
    sprites(settings, time, frame) {
      const seed = Math.round(Number(settings.seed ?? 1)) * 131
      const of = (key: string) => Number(settings[key] ?? 0)
      const moment: Moment = {
        ...{ settings, time: time / TICKS_PER_SECOND, width: frame.width, height: frame.height, of },
        roll: (n, what) => die(Math.imul(n, 31) + what, seed),
        colours: [1, 2, 3].map((i) => String(settings[`colour${i}`])),
      }
      return kind.particles(moment).flatMap(({ piece, colour: hex, x, y, size, angle, narrow, opacity }) => {
        const draw = kind.pieces[piece]
        if (!draw || !(opacity > 0.004) || !(size > 0.4)) return []
        if (x < -size || y < -size || x > frame.width + size || y > frame.height + size) return []
        const side = DRAWN.find((drawn) => size <= drawn) ?? DRAWN[2]
        const [sin, cos] = sinCosDegrees(angle)
        const [sx, sy] = [(size / side) * narrow, size / side]
        return [
          {
            ...{ name: `${piece} ${hex} ${side}`, side, opacity: Math.min(1, opacity) },
            draw: (sheet: Sheet) => draw(sheet, side, hex),
            matrix: [cos * sx, sin * sx, -sin * sy, cos * sy, x, y] as const,
          },
        ]
      })
    },
  }
}
