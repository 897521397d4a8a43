import { FilterRow, rowOf } from './dsp/biquad'
import { BlockPeaks } from './dsp/oversample'
import { QUANTUM } from './effects'

/** The two stages of K-weighting at 48 kHz, a shelf and a high-pass: ITU-R BS.1770-5, tables 1 and 2. */
const K_WEIGHTING = rowOf([
  {
    b0: 1.53512485958697,
    b1: -2.69169618940638,
    b2: 1.19839281085285,
    a1: -1.69065929318241,
    a2: 0.73248077421585,
  },
  { b0: 1, b1: -2, b2: 1, a1: -1.99004745483398, a2: 0.99007225036621 },
])

/** How many times as high as its samples a wave gets between them, at most. */
const OVERSHOOT = 2.2

/** Samples of a gating step: 100 ms; a block is four of them. */
const STEP = 4800

/** Loudness of a power, in LUFS. */
const loud = (power: number) => -0.691 + 10 * Math.log10(power)
const mean = (list: readonly number[]) => list.reduce((a, b) => a + b, 0) / list.length

/** K-weighted power of stereo in steps of 100 ms, and its true peak. How blocks are cut makes no difference. */
class Steps {
  private readonly weighting = new FilterRow(2)
  private readonly between = new BlockPeaks()
  /** The block that is taken next: left and right. */
  readonly block = [new Float32Array(QUANTUM), new Float32Array(QUANTUM)] as const
  /** Highest sample that a wave at the start of the next block is made of, too. */
  private before = 0
  private sum = 0
  private filled = 0
  truePeak = 0
  samplePeak = 0

  constructor(private readonly step: (power: number) => void) {}

  /** Takes the first `count` samples of {@link block}, which are overwritten. */
  take(count: number): void {
    const whole = count === QUANTUM
    const left = whole ? this.block[0] : this.block[0].subarray(0, count)
    const right = whole ? this.block[1] : this.block[1].subarray(0, count)
    let most = 0
    for (let i = 0; i < count; i++) most = Math.max(most, Math.abs(left[i]!), Math.abs(right[i]!))
    this.samplePeak = Math.max(this.samplePeak, most)
    // Where nothing between samples can lie above what was found already, it is not worked out.
    if (Math.max(most, this.before) * OVERSHOOT > this.truePeak) {
      for (const peak of this.between.run(left, right)) if (peak > this.truePeak) this.truePeak = peak
    } else this.between.skip(left, right)
    this.before = whole ? most : Math.max(this.before, most)
    this.weighting.run(K_WEIGHTING, left, right)
    for (let i = 0; i < count; i++) {
      this.sum += left[i]! * left[i]! + right[i]! * right[i]!
      if (++this.filled < STEP) continue
      this.step(this.sum / STEP)
      this.sum = 0
      this.filled = 0
    }
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
    const [left, right] = this.steps.block
    for (let from = 0; from < block.length; from += QUANTUM * 2) {
      const count = Math.min(QUANTUM, (block.length - from) / 2)
      for (let i = 0, at = from; i < count; i++, at += 2) {
        left[i] = block[at]!
        right[i] = block[at + 1]!
      }
      this.steps.take(count)
    }
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
    for (let from = 0; from < left.length; from += QUANTUM) {
      const count = Math.min(QUANTUM, left.length - from)
      this.steps.block[0].set(left.subarray(from, from + count))
      this.steps.block[1].set(right.subarray(from, from + count))
      this.steps.take(count)
    }
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
