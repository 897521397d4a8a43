import { exp2 } from '../../dsp/maths'
import { defineSoundEffect, kept, number, percent, preset, QUANTUM, type Settings } from '../define'

/** Samples kept: a power of two. */
const SIZE = 16_384
const MASK = SIZE - 1
/** Delay about which the reading place swings: as much is held back. */
const MIDDLE = 2048
/** Samples from one splice to the next place, about 25 ms, and how far round it a place that fits is looked for. */
const JUMP = 1200
const SEARCH = 560
/** Samples over which both sides of a splice are compared, and over which one passes into the other. */
const COMPARED = 480
const PASSING = 400

/**
 * Reads faster or slower than is written, and jumps back or on where the wave fits, as often as it has to. Both sides
 * jump together.
 */
class Shifter {
  private readonly left = new Float32Array(SIZE)
  private readonly right = new Float32Array(SIZE)
  private head = 0
  private delay = MIDDLE
  /** The way that is being left, and how much of the passage is done. */
  private old = { delay: MIDDLE, done: PASSING }

  step(l: number, r: number, ratio: number): [number, number] {
    this.head = (this.head + 1) & MASK
    this.left[this.head] = l
    this.right[this.head] = r
    const drift = 1 - ratio
    this.delay += drift
    if (this.old.done < PASSING) this.old.delay += drift
    else if (Math.abs(this.delay - MIDDLE) > JUMP / 2 && drift !== 0) this.splice()
    const now = this.read(this.delay)
    if (this.old.done >= PASSING) return now
    const before = this.read(this.old.delay)
    const t = (++this.old.done - 0.5) / PASSING
    const part = t * t * (3 - 2 * t)
    return [before[0] + (now[0] - before[0]) * part, before[1] + (now[1] - before[1]) * part]
  }

  /** Goes to the place on the other side of the middle that sounds most like this one. */
  private splice(): void {
    const from = Math.round(this.delay)
    const to = MIDDLE + (MIDDLE - from)
    let [best, most] = [to, -Infinity]
    for (let place = to - SEARCH; place <= to + SEARCH; place += 2) {
      let [sum, energy] = [0, 1e-9]
      for (let i = 0; i < COMPARED; i += 3) {
        const at = (this.head - place + i) & MASK
        const b = this.left[at]! + this.right[at]!
        const own = (this.head - from + i) & MASK
        sum += (this.left[own]! + this.right[own]!) * b
        energy += b * b
      }
      const alike = sum / Math.sqrt(energy)
      if (alike > most) [best, most] = [place, alike]
    }
    this.old = { delay: this.delay, done: 0 }
    this.delay += best - from
  }

  /** Between samples, by a cubic through four. */
  private read(delay: number): [number, number] {
    const whole = Math.floor(delay)
    const t = 1 - (delay - whole)
    const at = this.head - whole - 1
    const cubic = (line: Float32Array): number => {
      const [a, b, c, d] = [line[(at - 1) & MASK]!, line[at & MASK]!, line[(at + 1) & MASK]!, line[(at + 2) & MASK]!]
      return b + 0.5 * t * (c - a + t * (2 * a - 5 * b + 4 * c - d + t * (3 * (b - c) + d - a)))
    }
    return [cubic(this.left), cubic(this.right)]
  }
}

export const pitch = defineSoundEffect({
  id: 'pitch',
  name: 'Pitch shift',
  family: 'tone',
  hint: 'Higher or deeper at the same speed. For a single clip its own pitch, in its details, sounds better.',
  params: [
    number('semitones', 'By', -12, 12, 3, { unit: 'semitones', digits: 1, step: 0.1 }),
    percent('mix', 'Mix', 100),
  ],
  presets: [
    preset('deeper', 'Deeper', { semitones: -3 }),
    preset('lower', 'Giant', { semitones: -6 }),
    preset('higher', 'Higher', { semitones: 4 }),
    preset('doubled', 'Doubled', { semitones: 0.2, mix: 50 }),
  ],
  latency: MIDDLE,
  memory: 0.5,
  create() {
    const shifter = new Shifter()
    const ratioOf = kept((settings: Settings) => exp2(Number(settings.semitones) / 12))
    const dry = [new Float32Array(SIZE), new Float32Array(SIZE)] as const
    let head = 0
    return {
      process(left, right, settings) {
        const [ratio, mix] = [ratioOf(settings), Number(settings.mix) / 100]
        for (let i = 0; i < QUANTUM; i++) {
          head = (head + 1) & MASK
          dry[0][head] = left[i]!
          dry[1][head] = right[i]!
          const [l, r] = shifter.step(left[i]!, right[i]!, ratio)
          const past = (head - MIDDLE) & MASK
          left[i] = dry[0][past]! * (1 - mix) + l * mix
          right[i] = dry[1][past]! * (1 - mix) + r * mix
        }
      },
    }
  },
})
