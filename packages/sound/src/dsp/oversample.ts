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

/** Samples by which peaks are reported later than what came in. */
export const PEAK_DELAY = TAPS / 2

/**
 * Follows both channels between their samples, block by block: what a converter would make of them (ITU-R BS.1770-5,
 * annex 2).
 */
export class BlockPeaks {
  private readonly past = [new Float32Array(TAPS), new Float32Array(TAPS)] as const

  /**
   * @param left a block of 128 samples at most, and `right` as many
   * @returns for each sample the highest amplitude of either side around the sample {@link PEAK_DELAY} before it; good
   * until the next call
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
      this.keep(past, block)
    }
    return left.length === kernels.peaks.length ? kernels.peaks : kernels.peaks.subarray(0, left.length)
  }

  /** Passes a block over of which it is known that nothing is looked for in it. */
  skip(left: Float32Array, right: Float32Array): void {
    this.keep(this.past[0], left)
    this.keep(this.past[1], right)
  }

  private keep(past: Float32Array, block: Float32Array): void {
    const kept = Math.max(0, TAPS - block.length)
    past.copyWithin(0, TAPS - kept)
    past.set(block.subarray(Math.max(0, block.length - TAPS)), kept)
  }
}

/** The coefficients of the three places between two samples. */
const BETWEEN = Float32Array.from(TABLE.subarray(TAPS))
