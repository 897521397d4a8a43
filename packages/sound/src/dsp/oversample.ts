import { soundKernels } from './kernels'
import { sinCosTurns } from './maths'

/** Phases and taps of the interpolator; BS.1770-5 asks for 4 phases, 24 taps keep it within 0.05 dB up to 20 kHz. */
const PHASES = 4
const TAPS = 24

/** Windowed-sinc coefficients, phase after phase. */
const TABLE = (() => {
  const table = new Float64Array(PHASES * TAPS)
  for (let p = 0; p < PHASES; p++) {
    let sum = 0
    for (let k = 0; k < TAPS; k++) {
      const x = k - TAPS / 2 + 1 - p / PHASES
      const [sine] = sinCosTurns(x / 2)
      const sinc = Math.abs(x) < 1e-9 ? 1 : sine / (Math.PI * x)
      const [, cosine] = sinCosTurns((x + TAPS / 2) / TAPS)
      const window = 0.5 - 0.5 * cosine
      table[p * TAPS + k] = sinc * window
      sum += table[p * TAPS + k]!
    }
    for (let k = 0; k < TAPS; k++) table[p * TAPS + k]! /= sum
  }
  return table
})()

/** Follows one channel between its samples: what a converter would make of them (ITU-R BS.1770-5, annex 2). */
export class TruePeak {
  /** The last samples, twice over, so that those looked at always lie in a row. */
  private readonly past = new Float64Array(2 * TAPS)
  private place = 0
  /** Samples for which something loud enough is still among those looked at. */
  private hot = 0

  /** Samples by which what is reported is later than what came in. */
  static readonly DELAY = TAPS / 2

  /**
   * Takes a sample in.
   * @param above amplitudes up to this are not asked about: where none can lie above it, nothing is worked out
   * @returns the highest amplitude around the sample {@link DELAY} samples ago, or 0 where it is not above
   */
  step(x: number, above = 0): number {
    const { past, place } = this
    past[place] = past[place + TAPS] = x
    this.place = place + 1 === TAPS ? 0 : place + 1
    // No wave through samples this small gets more than 2.2 times as high between them.
    if (x * 2.2 > above || x * -2.2 > above) this.hot = TAPS
    if (this.hot === 0) return 0
    this.hot--
    // On a sample lies the sample itself; the three places between are summed side by side.
    const newest = place + TAPS
    let a = past[newest - TruePeak.DELAY + 1]!
    let b = 0
    let c = 0
    let d = 0
    for (let k = 0, at = newest; k < TAPS; k++, at--) {
      const value = past[at]!
      b += value * TABLE[TAPS + k]!
      c += value * TABLE[2 * TAPS + k]!
      d += value * TABLE[3 * TAPS + k]!
    }
    if (a < 0) a = -a
    if (b < 0) b = -b
    if (c < 0) c = -c
    if (d < 0) d = -d
    return Math.max(a, b, c, d)
  }
}

/** Follows both channels block by block. */
export class BlockPeaks {
  private readonly past = [new Float32Array(TAPS), new Float32Array(TAPS)] as const

  /**
   * @param left a block of 128 samples
   * @returns for each sample the highest amplitude of either side around the sample {@link TruePeak.DELAY} before it;
   * good until the next call
   */
  run(left: Float32Array, right: Float32Array): Float32Array {
    const kernels = soundKernels()
    kernels.taps.set(BETWEEN)
    kernels.peaks.fill(0)
    for (const [side, block] of [left, right].entries()) {
      const past = this.past[side]!
      kernels.history.set(past)
      kernels.history.set(block, TAPS)
      kernels.between()
      past.set(block.subarray(block.length - TAPS))
    }
    return kernels.peaks
  }
}

/** The coefficients of the three places between two samples. */
const BETWEEN = Float32Array.from(TABLE.subarray(TAPS))
