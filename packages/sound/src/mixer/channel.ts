import { isAnimated, valueAt, type Animated, type ChannelChoice, type SoundChannelPlan } from '@dusk/timeline'
import { TICKS_PER_SAMPLE } from '@dusk/timeline'
import { decibelsToGain } from '../decibels'
import { sinCosTurns } from '../dsp/maths'
import { QUANTUM } from '../effects'

/**
 * Factors of left and right for a pan of −100 … 100: constant power (sine and cosine of a quarter turn), 0 dB in the
 * middle and +3 dB at a side, so that a pan leaves loudness where it was. Of a stereo sound it shifts the balance.
 */
export function panGains(pan: number): [number, number] {
  if (pan === 0) return [1, 1]
  const [sin, cos] = sinCosTurns((pan + 100) / 800)
  return [cos * Math.SQRT2, sin * Math.SQRT2]
}

const numberAt = (value: Animated<number> | undefined, clock: number): number =>
  value === undefined ? 0 : valueAt(value, clock)

/** Gain, level and pan of a clip, a track or a reel: glides from block to block, so that nothing clicks. */
export class Fader {
  private last: [number, number] | null = null
  private readonly moves: boolean

  constructor(private readonly plan: SoundChannelPlan) {
    this.moves = [plan.level, plan.pan].some((value) => value !== undefined && isAnimated(value))
  }

  /** Factors of left and right at the start and at the end of the block that begins at `clock`. */
  glide(clock: number): { from: [number, number]; to: [number, number] } {
    const from = this.last ?? this.at(clock)
    const to = this.moves ? this.at(clock + QUANTUM * TICKS_PER_SAMPLE) : from
    this.last = to
    return { from, to }
  }

  /** A block passes without it: the next begins where it is by then. */
  rest(): void {
    this.last = null
  }

  /** @param clock the owner's time at the block's first sample, in ticks */
  process(left: Float32Array, right: Float32Array, clock: number): void {
    const { from, to } = this.glide(clock)
    if (from[0] === 1 && from[1] === 1 && to[0] === 1 && to[1] === 1) return
    const [byLeft, byRight] = [(to[0] - from[0]) / QUANTUM, (to[1] - from[1]) / QUANTUM]
    for (let i = 0; i < QUANTUM; i++) {
      left[i]! *= from[0] + byLeft * i
      right[i]! *= from[1] + byRight * i
    }
  }

  private at(clock: number): [number, number] {
    const gain = decibelsToGain(Math.max(-96, this.plan.gain + numberAt(this.plan.level, clock)))
    const [l, r] = panGains(numberAt(this.plan.pan, clock))
    return [gain * l, gain * r]
  }
}

/** Puts the channels of a stereo block where they are wanted. */
export function chooseChannels(left: Float32Array, right: Float32Array, choice: ChannelChoice): void {
  for (let i = 0; i < left.length; i++) {
    const [l, r] = [left[i]!, right[i]!]
    switch (choice) {
      case 'swapped':
        left[i] = r
        right[i] = l
        break
      case 'mono':
        left[i] = right[i] = (l + r) / 2
        break
      case 'left':
        right[i] = l
        break
      case 'right':
        left[i] = r
    }
  }
}

/** Left and right louder or quieter, each by itself. */
export function setSides(
  left: Float32Array,
  right: Float32Array,
  sides: readonly [Animated<number>, Animated<number>],
  clock: number,
): void {
  for (const [n, block] of [left, right].entries()) {
    const from = decibelsToGain(numberAt(sides[n], clock))
    const to = decibelsToGain(numberAt(sides[n], clock + QUANTUM * TICKS_PER_SAMPLE))
    for (let i = 0; i < QUANTUM; i++) block[i]! *= from + ((to - from) * i) / QUANTUM
  }
}
