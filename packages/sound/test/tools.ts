import type { SoundPiece, SoundPlan } from '@dusk/timeline'
import { Mixer, pieceSources, type SoundReader, type StretchEngines } from '../src/index'

export const RATE = 48_000

/** A piece of source `a`, stream 0. */
export const piece = (more: Partial<SoundPiece> = {}): SoundPiece => ({
  assetId: 'a',
  stream: 0,
  track: 0,
  at: 0,
  length: RATE,
  from: 0,
  clock: 0,
  gain: 0,
  ...more,
})

/** A plan of one track. */
export const plan = (pieces: SoundPiece[], more: Partial<SoundPlan> = {}): SoundPlan => ({
  length: pieces.reduce((end, { at, length }) => Math.max(end, at + length), 0),
  start: 0,
  tracks: [{ id: 't', purpose: 'voice', gain: 0 }],
  pieces,
  reel: { gain: 0 },
  ...more,
})

/** What a plan sounds like from one sample for `count`, asked for in blocks of the lengths given, again and again. */
export async function mixed(
  planned: SoundPlan,
  read: SoundReader,
  options: { from?: number; count?: number; cuts?: number[]; engines?: StretchEngines } = {},
): Promise<Float32Array> {
  const { from = 0, engines = null } = options
  const { count = planned.length - from } = options
  const { cuts = [count] } = options
  const mixer = new Mixer(planned, pieceSources(read, engines))
  if (from !== 0) await mixer.seek(from)
  const out = new Float32Array(count * 2)
  for (let at = 0, n = 0; at < count; n++) {
    const block = await mixer.render(Math.min(cuts[n % cuts.length]!, count - at))
    out.set(block, at * 2)
    at += block.length / 2
  }
  mixer.release()
  return out
}

/** A reader of a mono signal given by its value at a sample. */
export const signal =
  (value: (sample: number) => number): SoundReader =>
  async (_asset, _stream, from, count) => ({
    channels: 1,
    samples: Float32Array.from({ length: count }, (_, i) => value(from + i)),
  })

/** A sine of a frequency and an amplitude. */
export const tone = (hz: number, amplitude = 0.5) => signal((n) => amplitude * Math.sin((2 * Math.PI * hz * n) / RATE))

/** Noise that is the same each time, a value for each sample. */
export function noiseAt(sample: number): number {
  let h = Math.imul(sample ^ 0x9e3779b9, 0x85ebca6b)
  h = Math.imul(h ^ (h >>> 13), 0xc2b2ae35)
  return ((h ^ (h >>> 16)) >>> 0) / 2_147_483_648 - 1
}

/** One side of interleaved stereo. */
export const side = (block: Float32Array, n: 0 | 1 = 0): Float32Array => block.filter((_, i) => i % 2 === n)

/**
 * How high a wave gets at its samples and at three places between two of them, each summed from the 24 around it; the
 * first and last dozen are left out.
 */
export function highestBetween(mono: Float32Array): number {
  const TAPS = 24
  let most = 0
  for (let i = TAPS / 2; i < mono.length - TAPS / 2; i++)
    for (const part of [0, 0.25, 0.5, 0.75]) {
      let value = 0
      let whole = 0
      for (let k = 1 - TAPS / 2; k <= TAPS / 2; k++) {
        const x = k - part
        const sinc = x === 0 ? 1 : Math.sin(Math.PI * x) / (Math.PI * x)
        const weight = sinc * (0.5 + 0.5 * Math.cos((2 * Math.PI * x) / TAPS))
        value += weight * mono[i + k]!
        whole += weight
      }
      most = Math.max(most, Math.abs(value / whole))
    }
  return most
}

/** Root mean square in decibels. */
export function level(block: Float32Array): number {
  let sum = 0
  for (const value of block) sum += value * value
  return 10 * Math.log10(Math.max(sum / block.length, 1e-20))
}

/** Largest difference of two blocks in decibels of full scale. */
export function apart(a: Float32Array, b: Float32Array): number {
  let most = 0
  for (let i = 0; i < a.length; i++) most = Math.max(most, Math.abs(a[i]! - b[i]!))
  return 20 * Math.log10(Math.max(most, 1e-12))
}

/** Fundamental of a mono stretch in hertz, by the nearest peak of its autocorrelation, finely. */
export function pitchOf(mono: Float32Array, near: number): number {
  const lag = RATE / near
  const at = (shift: number) => {
    let sum = 0
    for (let i = 0; i + shift < mono.length; i++) sum += mono[i]! * mono[i + shift]!
    return sum / (mono.length - shift)
  }
  // Many periods away, a small error of pitch is many samples.
  const periods = Math.max(1, Math.floor(mono.length / 3 / lag))
  let best = 0
  let highest = -Infinity
  for (let shift = Math.round((periods - 0.4) * lag); shift <= (periods + 0.4) * lag; shift++)
    if (at(shift) > highest) [best, highest] = [shift, at(shift)]
  const [a, b, c] = [at(best - 1), at(best), at(best + 1)]
  return (RATE * periods) / (best + (a - c) / (2 * (a - 2 * b + c)))
}
