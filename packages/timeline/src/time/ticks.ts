/**
 * Time as whole ticks.
 *
 * One second is 705 600 000 ticks, the smallest common multiple that makes a frame at 24, 25, 30, 48, 50, 60,
 * 24000/1001 and 30000/1001 frames a second, and a sample at 44.1 and 48 kHz, a whole number. A JavaScript number
 * holds whole ticks exactly for 147 days.
 */
export const TICKS_PER_SECOND = 705_600_000

/** The mixing sample rate, in samples a second. */
export const SAMPLE_RATE = 48_000

/** Ticks of one sample at {@link SAMPLE_RATE}. */
export const TICKS_PER_SAMPLE = TICKS_PER_SECOND / SAMPLE_RATE

/** A frame rate as a fraction of whole numbers, in frames a second: `{num: 24000, den: 1001}` is 23.976. */
export interface Rate {
  readonly num: number
  readonly den: number
}

/** Ticks of one frame at `rate`. Whole for every rate the product offers; otherwise a fraction. */
export function ticksPerFrame(rate: Rate): number {
  return (TICKS_PER_SECOND / rate.num) * rate.den
}

/** The tick at which frame `frame` (a whole number, may be negative) begins. */
export function frameToTicks(frame: number, rate: Rate): number {
  // Zero has one sign: JSON knows no other.
  return Math.round(frame * ticksPerFrame(rate)) + 0
}

/** The frame showing at `ticks`: the last one that has begun. */
export function ticksToFrame(ticks: number, rate: Rate): number {
  // The added fraction of a tick keeps a frame start that was rounded down from falling into the frame before.
  return Math.floor((ticks + 0.5) / ticksPerFrame(rate))
}

/** `ticks` moved to the nearest frame start. */
export function snapToFrame(ticks: number, rate: Rate): number {
  return frameToTicks(Math.round(ticks / ticksPerFrame(rate)), rate)
}

/** `ticks` moved to the nearest sample of the mix. */
export function snapToSample(ticks: number): number {
  return Math.round(ticks / TICKS_PER_SAMPLE) * TICKS_PER_SAMPLE + 0
}

/** Seconds (any real number) as whole ticks. */
export function secondsToTicks(seconds: number): number {
  return Math.round(seconds * TICKS_PER_SECOND)
}

/** Ticks as seconds, for display and for outside tools; never stored in a document. */
export function ticksToSeconds(ticks: number): number {
  return ticks / TICKS_PER_SECOND
}

/** Whether two rates are the same number of frames a second. */
export function sameRate(a: Rate, b: Rate): boolean {
  return a.num * b.den === b.num * a.den
}

/** Frames a second as a number, for display. */
export function framesPerSecond(rate: Rate): number {
  return rate.num / rate.den
}
