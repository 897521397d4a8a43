import { TruePeak } from './dsp/oversample'

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

/** Loudness of a power, in LUFS. */
const loud = (power: number) => -0.691 + 10 * Math.log10(power)
const mean = (list: readonly number[]) => list.reduce((a, b) => a + b, 0) / list.length

/** K-weighted power of stereo in steps of 100 ms, and its true peak. */
class Steps {
  private readonly state = new Float64Array(8)
  private readonly peaks = [new TruePeak(), new TruePeak()] as const
  private sum = 0
  private filled = 0
  truePeak = 0
  samplePeak = 0

  constructor(private readonly step: (power: number) => void) {}

  add(l: number, r: number): void {
    for (let c = 0; c < 2; c++) {
      const x = c === 0 ? l : r
      const size = x < 0 ? -x : x
      if (size > this.samplePeak) this.samplePeak = size
      const between = this.peaks[c]!.step(x, this.truePeak)
      if (between > this.truePeak) this.truePeak = between
      const y = this.filter(HIGH_PASS, c * 4 + 2, this.filter(SHELF, c * 4, x))
      this.sum += y * y
    }
    if (++this.filled < STEP) return
    this.step(this.sum / STEP)
    this.sum = 0
    this.filled = 0
  }

  private filter(f: Biquad, at: number, x: number): number {
    const s = this.state
    const y = f.b0 * x + s[at]!
    s[at] = f.b1 * x - f.a1 * y + s[at + 1]!
    s[at + 1] = f.b2 * x - f.a2 * y
    return y
  }
}

/** What a measurement of a whole says; `null` where there is too little above the gate. */
export interface LoudnessResult {
  /** LUFS. */
  integrated: number | null
  /** Loudness range in LU, by EBU Tech 3342. */
  range: number | null
  /** Loudest three seconds, LUFS. */
  shortTermMost: number | null
  /** Decibels of full scale, between samples too; −200 for silence. */
  truePeak: number
  /** Decibels of full scale. */
  peak: number
}

/**
 * Loudness of stereo by EBU R 128 / ITU-R BS.1770-5: K-weighted, blocks of 400 ms overlapping by three quarters, gated
 * at −70 LUFS and then 10 LU below the mean. Also its range, its loudest three seconds and its peaks.
 */
export class Loudness {
  private readonly powers: number[] = []
  private readonly steps = new Steps((power) => this.powers.push(power))

  /** @param block interleaved stereo at 48 kHz */
  push(block: Float32Array): void {
    for (let i = 0; i < block.length; i += 2) this.steps.add(block[i]!, block[i + 1]!)
  }

  /** Highest sample so far, as a factor of full scale. */
  get peak(): number {
    return this.steps.samplePeak
  }

  /** Highest between samples so far, as a factor of full scale. */
  get truePeak(): number {
    return this.steps.truePeak
  }

  /** In LUFS; `null` when there is too little above the gate to say. */
  integrated(): number | null {
    const above = this.windows(4).filter((power) => loud(power) > -70)
    if (above.length === 0) return null
    const gate = loud(mean(above)) - 10
    return loud(mean(above.filter((power) => loud(power) > gate)))
  }

  result(): LoudnessResult {
    const short = this.windows(30)
    const above = short.filter((power) => loud(power) > -70)
    const gate = above.length > 0 ? loud(mean(above)) - 20 : 0
    const kept = above
      .map(loud)
      .filter((value) => value > gate)
      .sort((a, b) => a - b)
    const at = (part: number) => kept[Math.round((kept.length - 1) * part)]!
    const db = (value: number) => (value > 1e-10 ? 20 * Math.log10(value) : -200)
    return {
      integrated: this.integrated(),
      range: kept.length > 1 ? at(0.95) - at(0.1) : null,
      shortTermMost: above.length > 0 ? loud(Math.max(...above)) : null,
      truePeak: db(this.truePeak),
      peak: db(this.peak),
    }
  }

  /** Mean powers of so many steps, one window beginning with each step. */
  private windows(size: number): number[] {
    const found: number[] = []
    for (let i = 0; i + size <= this.powers.length; i++) found.push(mean(this.powers.slice(i, i + size)))
    return found
  }
}

/** Loudness of what is heard now: of the last 400 ms (momentary) and of the last three seconds (short-term). */
export class LiveLoudness {
  private readonly powers: number[] = []
  private readonly steps = new Steps((power) => {
    this.powers.push(power)
    if (this.powers.length > 30) this.powers.shift()
  })

  push(left: Float32Array, right: Float32Array): void {
    for (let i = 0; i < left.length; i++) this.steps.add(left[i]!, right[i]!)
  }

  /** LUFS; `null` at first and in silence. */
  get momentary(): number | null {
    return this.over(4)
  }

  get shortTerm(): number | null {
    return this.over(30)
  }

  /** Highest between samples since it was last asked, as a factor of full scale. */
  takePeak(): number {
    const peak = this.steps.truePeak
    this.steps.truePeak = 0
    return peak
  }

  private over(size: number): number | null {
    if (this.powers.length < size) return null
    const power = mean(this.powers.slice(-size))
    return power > 1e-12 ? loud(power) : null
  }
}
