import { DelayLine } from '../../dsp/delayLine'
import { sinCosTurns } from '../../dsp/maths'
import { defineSoundEffect, number, percent, preset } from '../define'

const rate = (initial: number) => number('rate', 'Speed', 0.05, 20, initial, { unit: 'Hz', digits: 2, step: 0.01 })

/** A slow wave: where in its turn it is, 0 to 1. It has turned since the owner's time began, wherever play begins. */
class Wave {
  private turn = -1

  /** Says where a block begins, in samples; the first one sets the wave. */
  begin(at: number, hertz: number): void {
    if (this.turn >= 0) return
    const turns = (at * hertz) / 48_000
    this.turn = turns - Math.floor(turns)
  }

  next(hertz: number): number {
    this.turn += hertz / 48_000
    if (this.turn >= 1) this.turn -= 1
    return this.turn
  }
}

export const chorus = defineSoundEffect({
  id: 'chorus',
  name: 'Chorus',
  family: 'motion',
  hint: 'Several of the same, each a little off: thicker and wider.',
  params: [rate(0.6), percent('depth', 'Depth', 40), percent('mix', 'Mix', 45)],
  presets: [
    preset('thicker', 'Thicker', { rate: 0.5, depth: 35, mix: 40 }),
    preset('dream', 'Dream', { rate: 0.25, depth: 80, mix: 60 }),
  ],
  memory: 0.5,
  create() {
    const [lineLeft, lineRight] = [new DelayLine(4800), new DelayLine(4800)]
    const wave = new Wave()
    return {
      process(left, right, settings, at) {
        const [depth, mix, hertz] = [Number(settings.depth) * 1.6, Number(settings.mix) / 100, Number(settings.rate)]
        wave.begin(at, hertz)
        for (let i = 0; i < left.length; i++) {
          const turn = wave.next(hertz)
          lineLeft.push(left[i]!)
          lineRight.push(right[i]!)
          const [s, c] = sinCosTurns(turn)
          const [a, b] = [lineLeft.between(700 + depth * s), lineRight.between(700 + depth * c)]
          const [d, e] = [lineLeft.between(1150 - depth * c), lineRight.between(1150 - depth * s)]
          left[i] = left[i]! * (1 - mix / 2) + (a + 0.7 * e) * mix * 0.6
          right[i] = right[i]! * (1 - mix / 2) + (b + 0.7 * d) * mix * 0.6
        }
      },
    }
  },
})

export const flutter = defineSoundEffect({
  id: 'flutter',
  name: 'Flutter',
  family: 'motion',
  hint: 'The pitch wavers, as from a worn tape.',
  params: [rate(4), percent('depth', 'Depth', 30)],
  presets: [
    preset('wornTape', 'Worn tape', { rate: 3.2, depth: 22 }),
    preset('seasick', 'Seasick', { rate: 0.7, depth: 95 }),
  ],
  memory: 0.3,
  create() {
    const [lineLeft, lineRight] = [new DelayLine(2400), new DelayLine(2400)]
    const wave = new Wave()
    return {
      process(left, right, settings, at) {
        const hertz = Number(settings.rate)
        const depth = (Number(settings.depth) * 3.5) / Math.max(1, hertz)
        wave.begin(at, hertz)
        for (let i = 0; i < left.length; i++) {
          const delay = 480 + depth * sinCosTurns(wave.next(hertz))[0]
          lineLeft.push(left[i]!)
          lineRight.push(right[i]!)
          left[i] = lineLeft.between(delay)
          right[i] = lineRight.between(delay)
        }
      },
    }
  },
})

export const tremolo = defineSoundEffect({
  id: 'tremolo',
  name: 'Tremolo',
  family: 'motion',
  hint: 'Louder and quieter in waves, or from side to side.',
  params: [rate(5), percent('depth', 'Depth', 60), percent('sides', 'From side to side', 0)],
  presets: [
    preset('pulse', 'Pulse', { rate: 4, depth: 80 }),
    preset('drifting', 'Drifting', { rate: 0.2, depth: 90, sides: 100 }),
  ],
  memory: 0.1,
  create() {
    const wave = new Wave()
    return {
      process(left, right, settings, at) {
        const [hertz, depth, sides] = [
          Number(settings.rate),
          Number(settings.depth) / 200,
          Number(settings.sides) / 100,
        ]
        wave.begin(at, hertz)
        for (let i = 0; i < left.length; i++) {
          const turn = wave.next(hertz)
          const [s] = sinCosTurns(turn)
          left[i]! *= 1 - depth + depth * s
          right[i]! *= 1 - depth + depth * s * (1 - 2 * sides)
        }
      },
    }
  },
})
