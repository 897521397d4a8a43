import { DelayLine } from '../../dsp/delayLine'
import { exp2, smoothing } from '../../dsp/maths'
import { defineSoundEffect, hz, kept, ms, number, percent, preset, type Settings } from '../define'

/** Lengths of the eight lines in samples at a size of 100 %: without common factors, so that echoes never line up. */
const LINES = [1123, 1367, 1531, 1747, 1949, 2203, 2437, 2683]
const LONGEST = Math.ceil(2683 * 2.5)
/** Short all-passes that spread what comes in. */
const SPREAD = [149, 211, 349, 521]

/** An all-pass: everything comes through, smeared over time. */
class AllPass {
  private readonly line: DelayLine

  constructor(private readonly length: number) {
    this.line = new DelayLine(length)
  }

  step(x: number): number {
    const old = this.line.at(this.length - 1)
    const y = old - 0.6 * x
    this.line.push(x + 0.6 * y)
    return y
  }
}

/**
 * A feedback delay network (J.-M. Jot, A. Chaigne, AES 90th Convention, 1991): eight lines that feed each other through
 * a Householder matrix, each with a low pass, so that highs die sooner.
 */
export const reverb = defineSoundEffect({
  id: 'reverb',
  name: 'Reverb',
  family: 'space',
  hint: 'Puts the sound into a room, from a cabin to a cave.',
  params: [
    number('decay', 'Dies away in', 0.1, 12, 1.6, { unit: 's', digits: 1, step: 0.1 }),
    percent('size', 'Size', 80, 250),
    ms('before', 'Begins after', 0, 200, 12),
    hz('dull', 'Duller above', 5200, 800, 18_000),
    percent('mix', 'Room', 25),
    percent('width', 'Wide', 100),
  ],
  presets: [
    preset('cabin', 'Cabin', { decay: 0.35, size: 25, before: 3, dull: 6500, mix: 22 }),
    preset('boathouse', 'Boathouse', { decay: 0.9, size: 60, before: 8, dull: 4200, mix: 26 }),
    preset('chapel', 'Chapel', { decay: 2.6, size: 120, before: 24, dull: 5200, mix: 30 }),
    preset('harbourHall', 'Harbour hall', { decay: 3.8, size: 180, before: 35, dull: 4600, mix: 32 }),
    preset('seaCave', 'Sea cave', { decay: 6.5, size: 240, before: 50, dull: 2400, mix: 40 }),
    preset('plate', 'Steel plate', { decay: 1.8, size: 45, before: 0, dull: 11_000, mix: 28 }),
    preset('openStreet', 'Narrow street', { decay: 0.7, size: 90, before: 45, dull: 3600, mix: 18 }),
  ],
  memory: 8,
  create() {
    const lines = LINES.map(() => new DelayLine(LONGEST))
    const low = new Float64Array(LINES.length)
    const [spreadLeft, spreadRight] = [SPREAD.map((n) => new AllPass(n)), SPREAD.map((n) => new AllPass(n + 23))]
    const [beforeLeft, beforeRight] = [new DelayLine(9700), new DelayLine(9700)]
    const settingsOf = kept((settings: Settings) => {
      const size = Math.max(0.1, Number(settings.size) / 100)
      const lengths = LINES.map((length) => Math.max(16, Math.round(length * size)))
      return {
        lengths,
        // 60 dB down after `decay` seconds.
        gains: lengths.map((length) => exp2((-9.965784284662087 * length) / (48_000 * Number(settings.decay)))),
        dull: smoothing(1000 / (2 * Math.PI * Number(settings.dull))),
        before: Math.round(Number(settings.before) * 48),
        mix: Number(settings.mix) / 100,
        width: Number(settings.width) / 100,
      }
    })
    const outs = new Float64Array(LINES.length)
    return {
      process(left, right, settings) {
        const { lengths, gains, dull, before, mix, width } = settingsOf(settings)
        for (let i = 0; i < left.length; i++) {
          beforeLeft.push(left[i]!)
          beforeRight.push(right[i]!)
          let l = beforeLeft.at(before)
          let r = beforeRight.at(before)
          for (const pass of spreadLeft) l = pass.step(l)
          for (const pass of spreadRight) r = pass.step(r)
          let sum = 0
          for (let n = 0; n < lines.length; n++) {
            const out = lines[n]!.at(lengths[n]! - 1) * gains[n]!
            low[n] = out + (low[n]! - out) * dull
            outs[n] = low[n]!
            sum += low[n]!
          }
          sum *= 2 / lines.length
          for (let n = 0; n < lines.length; n++) lines[n]!.push((n % 2 ? r : l) * 0.5 + outs[n]! - sum)
          const wetLeft = outs[0]! + outs[2]! - outs[4]! + outs[6]!
          const wetRight = outs[1]! - outs[3]! + outs[5]! + outs[7]!
          const [middle, side] = [(wetLeft + wetRight) / 2, ((wetLeft - wetRight) / 2) * width]
          left[i] = left[i]! * (1 - mix / 2) + (middle + side) * mix
          right[i] = right[i]! * (1 - mix / 2) + (middle - side) * mix
        }
      },
    }
  },
})
