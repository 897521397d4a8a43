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
  private readonly past = new Float64Array(TAPS)
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
    const { past } = this
    past[this.place] = x
    this.place = this.place + 1 === TAPS ? 0 : this.place + 1
    // No wave through samples this small gets more than 2.2 times as high between them.
    if (x * 2.2 > above || x * -2.2 > above) this.hot = TAPS
    if (this.hot === 0) return 0
    this.hot--
    let highest = 0
    for (let p = 0; p < PHASES; p++) {
      let sum = 0
      let at = this.place
      for (let k = TAPS - 1; k >= 0; k--) {
        sum += past[at]! * TABLE[p * TAPS + k]!
        at = at + 1 === TAPS ? 0 : at + 1
      }
      const size = sum < 0 ? -sum : sum
      if (size > highest) highest = size
    }
    return highest
  }
}
