import { sinCosTurns } from '../dsp/maths'

/** Taps on each side at a speed of 1, and steps between them in the table. */
const SIDE = 12
const STEPS = 64

/** Half of a sinc under a Hann window, from its middle outwards. */
const KERNEL = Float64Array.from({ length: SIDE * STEPS + 2 }, (_, i) => {
  const x = i / STEPS
  if (x >= SIDE) return 0
  const sinc = i === 0 ? 1 : sinCosTurns(x / 2)[0] / (Math.PI * x)
  return sinc * (0.5 + 0.5 * sinCosTurns(x / (2 * SIDE))[1])
})

/** Samples around a place that are needed to tell its value at a speed. */
export const resampleReach = (speed: number): number => Math.ceil(SIDE * Math.max(1, Math.abs(speed))) + 2

/**
 * The value of stereo samples at a place between them, as a tape at some speed would give it: band-limited, so that
 * what becomes too high at that speed does not come back as something else.
 * @param source interleaved stereo
 * @param position in samples; outside it is silent
 */
export function resampleAt(source: Float32Array, position: number, speed: number): [number, number] {
  const wide = Math.max(1, Math.abs(speed))
  const reach = SIDE * wide
  const first = Math.max(0, Math.ceil(position - reach))
  const last = Math.min(source.length / 2 - 1, Math.floor(position + reach))
  let [left, right] = [0, 0]
  for (let i = first; i <= last; i++) {
    const at = (Math.abs(i - position) / wide) * STEPS
    const whole = Math.floor(at)
    const weight = (KERNEL[whole]! + (KERNEL[whole + 1]! - KERNEL[whole]!) * (at - whole)) / wide
    left += source[i * 2]! * weight
    right += source[i * 2 + 1]! * weight
  }
  return [left, right]
}
