import { Fft } from '../../dsp/fft'
import { amplitude, decibels, sinCosTurns } from '../../dsp/maths'
import { defineSoundEffect, kept, percent, preset, QUANTUM, type Settings } from '../define'

const SIZE = 1024
const HOP = SIZE / 2
const BINS = SIZE / 2 + 1

/** Bands of a noise print: edges in bins, about a third of an octave wide. */
export const PRINT_BANDS: readonly number[] = (() => {
  const edges = [1]
  while (edges.at(-1)! < BINS - 1)
    edges.push(Math.min(BINS - 1, Math.max(edges.at(-1)! + 1, Math.round(edges.at(-1)! * 1.26))))
  return edges
})()

/** Square root of a Hann window: once in and once out makes a whole. */
const WINDOW = Float64Array.from({ length: SIZE }, (_, i) => sinCosTurns(i / (2 * SIZE))[0])

/** Power in each band of a window of sound. */
function bandPowers(re: Float64Array, im: Float64Array): number[] {
  return PRINT_BANDS.slice(0, -1).map((from, b) => {
    const to = PRINT_BANDS[b + 1]!
    let sum = 0
    for (let k = from; k < to; k++) sum += re[k]! ** 2 + im[k]! ** 2
    return sum / (to - from)
  })
}

/**
 * What a stretch of noise alone sounds like: the mean power of each band, as whole decibels in a line of text that is
 * kept among an effect's settings.
 * @param mono samples at 48 kHz, at least a tenth of a second
 */
export function noisePrint(mono: Float32Array): string {
  const fft = new Fft(SIZE)
  const [re, im] = [new Float64Array(SIZE), new Float64Array(SIZE)]
  const sums = new Float64Array(PRINT_BANDS.length - 1)
  let windows = 0
  for (let at = 0; at + SIZE <= mono.length; at += HOP) {
    for (let i = 0; i < SIZE; i++) [re[i], im[i]] = [mono[at + i]! * WINDOW[i]!, 0]
    fft.run(re, im)
    for (const [b, power] of bandPowers(re, im).entries()) sums[b]! += power
    windows++
  }
  return [...sums].map((sum) => Math.round(decibels(Math.sqrt(sum / Math.max(windows, 1))))).join(' ')
}

/** Power by bin of a print, or `null` when there is none. */
function printed(text: string): Float64Array | null {
  const levels = text.split(' ').map(Number)
  if (levels.length !== PRINT_BANDS.length - 1 || levels.some((level) => !Number.isFinite(level))) return null
  const noise = new Float64Array(BINS)
  for (const [b, level] of levels.entries())
    noise.fill(amplitude(level) ** 2, PRINT_BANDS[b], b === levels.length - 1 ? BINS : PRINT_BANDS[b + 1])
  noise[0] = noise[1]!
  return noise
}

/** One channel: windows that overlap by half, each band held down by how much of it is noise. */
class Denoiser {
  private readonly fft = new Fft(SIZE)
  private readonly re = new Float64Array(SIZE)
  private readonly im = new Float64Array(SIZE)
  private readonly input = new Float64Array(SIZE)
  private readonly out = new Float64Array(SIZE)
  private readonly clean = new Float64Array(BINS)
  private readonly floor = new Float64Array(BINS).fill(1e-9)
  private readonly smooth = new Float64Array(BINS)
  private filled = 0
  private windows = 0

  /** @param over how much more than the noise is taken away @param least what stays of it at the least, a factor */
  run(block: Float32Array, print: Float64Array | null, over: number, least: number): void {
    const { input, out } = this
    for (let i = 0; i < block.length; i++) {
      const place = this.filled + i
      input[HOP + place] = block[i]!
      block[i] = out[place]!
    }
    this.filled += block.length
    if (this.filled < HOP) return
    this.filled = 0
    this.window(print, over, least)
    input.copyWithin(0, HOP)
  }

  private window(print: Float64Array | null, over: number, least: number): void {
    const { re, im, clean, floor, smooth, out } = this
    for (let i = 0; i < SIZE; i++) [re[i], im[i]] = [this.input[i]! * WINDOW[i]!, 0]
    this.fft.run(re, im)
    // At first there is nothing to compare with.
    const settling = this.windows < 12
    let sum = 0
    for (let k = 0; k < BINS; k++) {
      const power = re[k]! ** 2 + im[k]! ** 2
      sum += power
      // Without a print the floor follows the quietest of late: down at once, up by about 3 dB a second.
      smooth[k] = smooth[k]! * 0.8 + power * 0.2
      const falls = smooth[k]! < floor[k]! || settling
      floor[k] = falls ? Math.max(smooth[k]!, 1e-12) : floor[k]! * 1.0075
      const noise = (print ? print[k]! : floor[k]! * 1.6) * over
      // Decision-directed estimate of what is not noise (Y. Ephraim, D. Malah, IEEE Trans. ASSP 32, 1984).
      const above = Math.max(power / noise - 1, 0)
      const signal = 0.96 * (clean[k]! / noise) + 0.04 * above
      const gain = Math.max(least, signal / (1 + signal))
      clean[k] = gain * gain * power
      re[k]! *= gain
      im[k]! *= gain
      if (k > 0 && k < BINS - 1) {
        re[SIZE - k] = re[k]!
        im[SIZE - k] = -im[k]!
      }
    }
    if (sum > 1e-9) this.windows++
    this.fft.run(re, im, true)
    out.copyWithin(0, HOP)
    out.fill(0, HOP)
    for (let i = 0; i < SIZE; i++) out[i]! += re[i]! * WINDOW[i]!
  }
}

export const noise = defineSoundEffect({
  id: 'noise',
  name: 'Noise reduction',
  family: 'repair',
  hint: 'Takes steady noise away: hiss, fans, wind. It learns best from a stretch where only the noise is heard.',
  params: [
    percent('amount', 'Amount', 60),
    percent('keep', 'Room that stays', 20),
    { kind: 'text', key: 'print', label: 'Noise print', default: '', maxLength: 200, fixed: true },
  ],
  presets: [
    preset('lightNoise', 'A little', { amount: 35, keep: 40 }),
    preset('strongNoise', 'Strong', { amount: 90, keep: 8 }),
  ],
  latency: SIZE,
  memory: 3,
  create() {
    const settingsOf = kept((settings: Settings) => ({
      print: printed(String(settings.print)),
      over: 0.4 + Number(settings.amount) / 30,
      least: Number(settings.keep) / 100,
    }))
    const [left, right] = [new Denoiser(), new Denoiser()]
    return {
      process(l, r, settings) {
        const { print, over, least } = settingsOf(settings)
        left.run(l, print, over, least)
        right.run(r, print, over, least)
      },
    }
  },
})

if (SIZE % QUANTUM !== 0) throw new Error('Windows are whole numbers of blocks.')
