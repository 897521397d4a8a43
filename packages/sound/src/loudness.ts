/** Second-order filter, coefficients normalised to a0 = 1. */
interface Biquad {
  b0: number
  b1: number
  b2: number
  a1: number
  a2: number
}

// The two stages of K-weighting at 48 kHz: ITU-R BS.1770-5, tables 1 and 2.
const SHELF: Biquad = {
  b0: 1.53512485958697,
  b1: -2.69169618940638,
  b2: 1.19839281085285,
  a1: -1.69065929318241,
  a2: 0.73248077421585,
}
const HIGH_PASS: Biquad = { b0: 1, b1: -2, b2: 1, a1: -1.99004745483398, a2: 0.99007225036621 }

/** Samples of a gating step: 100 ms; a block is four of them. */
const STEP = 4800

/**
 * Integrated loudness of stereo by EBU R 128 / ITU-R BS.1770-5: K-weighted, blocks of 400 ms overlapping by three
 * quarters, gated at −70 LUFS and then 10 LU below the mean. Also the highest sample.
 */
export class LoudnessMeter {
  private readonly state = new Float64Array(8)
  private readonly steps: number[] = []
  private sum = 0
  private filled = 0
  private highest = 0

  /** @param block interleaved stereo at 48 kHz */
  push(block: Float32Array): void {
    for (let i = 0; i < block.length; i += 2) {
      for (let c = 0; c < 2; c++) {
        const x = block[i + c]!
        const size = x < 0 ? -x : x
        if (size > this.highest) this.highest = size
        const y = this.filter(HIGH_PASS, c * 4 + 2, this.filter(SHELF, c * 4, x))
        this.sum += y * y
      }
      if (++this.filled === STEP) {
        this.steps.push(this.sum / STEP)
        this.sum = 0
        this.filled = 0
      }
    }
  }

  private filter(f: Biquad, at: number, x: number): number {
    const s = this.state
    const y = f.b0 * x + s[at]!
    s[at] = f.b1 * x - f.a1 * y + s[at + 1]!
    s[at + 1] = f.b2 * x - f.a2 * y
    return y
  }

  /** In LUFS; `null` when there is too little above the gate to say. */
  integrated(): number | null {
    const blocks: number[] = []
    for (let i = 0; i + 4 <= this.steps.length; i++)
      blocks.push((this.steps[i]! + this.steps[i + 1]! + this.steps[i + 2]! + this.steps[i + 3]!) / 4)
    const loud = (power: number) => -0.691 + 10 * Math.log10(power)
    const mean = (list: number[]) => list.reduce((a, b) => a + b, 0) / list.length
    const above = blocks.filter((power) => loud(power) > -70)
    if (above.length === 0) return null
    const gate = loud(mean(above)) - 10
    const kept = above.filter((power) => loud(power) > gate)
    return loud(mean(kept))
  }

  /** Highest sample so far, as a factor of full scale. */
  get peak(): number {
    return this.highest
  }
}
