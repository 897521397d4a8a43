import { Fft } from '../dsp/fft'
import { decibels, sinCosTurns } from '../dsp/maths'

const SIZE = 2048
/** Samples between two frames: 10.7 ms. */
export const BAND_HOP = 512
/** Bands of a frame: a third of an octave to an octave wide, from 40 Hz to 16 kHz. */
export const BANDS = 16
const EDGES = Array.from({ length: BANDS + 1 }, (_, i) =>
  Math.max(i + 1, Math.round(((40 * (16_000 / 40) ** (i / BANDS)) / 48_000) * SIZE)),
)
const WINDOW = Float64Array.from({ length: SIZE }, (_, i) => 0.5 - 0.5 * sinCosTurns(i / SIZE)[1])

/**
 * How loud each band is, frame by frame: what two places sound like can be told apart by it.
 * @param mono samples at 48 kHz
 * @returns decibels, {@link BANDS} a frame; frame f is the sound around sample `f × BAND_HOP`
 */
export function bandFrames(mono: Float32Array, progress: (part: number) => void = () => {}): Float32Array {
  const fft = new Fft(SIZE)
  const [re, im] = [new Float64Array(SIZE), new Float64Array(SIZE)]
  const count = Math.floor(mono.length / BAND_HOP) + 1
  const out = new Float32Array(count * BANDS)
  for (let f = 0; f < count; f++) {
    const from = f * BAND_HOP - SIZE / 2
    for (let i = 0; i < SIZE; i++) {
      re[i] = (mono[from + i] ?? 0) * WINDOW[i]!
      im[i] = 0
    }
    fft.run(re, im)
    for (let b = 0; b < BANDS; b++) {
      let sum = 0
      for (let k = EDGES[b]!; k < EDGES[b + 1]!; k++) sum += re[k]! ** 2 + im[k]! ** 2
      // Below −70 dB of a full tone nothing is told apart.
      out[f * BANDS + b] = Math.max(-40, decibels(Math.sqrt(sum)) - 24)
    }
    if (f % 512 === 0) progress(f / count)
  }
  return out
}

/** Each frame as the mean of itself and the next ones, `over` of them in all. */
export function smoothed(frames: Float32Array, over: number): Float32Array {
  const count = frames.length / BANDS
  const out = new Float32Array(frames.length)
  for (let f = 0; f < count; f++) {
    const n = Math.min(over, count - f)
    for (let b = 0; b < BANDS; b++) {
      let sum = 0
      for (let i = 0; i < n; i++) sum += frames[(f + i) * BANDS + b]!
      out[f * BANDS + b] = sum / n
    }
  }
  return out
}

/** How far two frames are apart, in decibels a band. */
export function frameDistance(frames: Float32Array, a: number, b: number): number {
  let sum = 0
  for (let k = 0; k < BANDS; k++) sum += Math.abs(frames[a * BANDS + k]! - frames[b * BANDS + k]!)
  return sum / BANDS
}
