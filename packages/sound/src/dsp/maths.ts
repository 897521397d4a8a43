import { exp, exp2, log2, sinCosDegrees } from '@dusk/timeline'

export { exp2, log2 }

/** Decibels of an amplitude; −200 at the least. */
export const decibels = (amplitude: number): number => Math.max(-200, 6.020599913279624 * log2(Math.abs(amplitude)))

/** Amplitude of decibels. */
export const amplitude = (db: number): number => exp2(db / 6.020599913279624)

/** Sine and cosine of a number of whole turns. */
export const sinCosTurns = (turns: number): [number, number] => sinCosDegrees((turns % 1) * 360)

/** Coefficient of a one-pole smoother that comes within 1/e of its goal in so many milliseconds at 48 kHz. */
export const smoothing = (ms: number): number => (ms <= 0 ? 0 : exp(-1 / (ms * 48)))

/** Steps of the tables between which {@link quickDecibels} and {@link quickAmplitude} go straight: error below 1e-6. */
const STEPS = 2048
const LOGS = Float64Array.from({ length: STEPS + 1 }, (_, i) => log2(1 + i / STEPS))
const EXPS = Float64Array.from({ length: STEPS + 1 }, (_, i) => exp2(i / STEPS))
const POWERS = Float64Array.from({ length: 401 }, (_, i) => exp2(i - 200))
const float = new Float32Array(1)
const whole = new Int32Array(float.buffer)

/** Decibels of an amplitude of 0 or more, for every sample of what works on levels. */
export function quickDecibels(amplitude: number): number {
  float[0] = amplitude
  const word = whole[0]!
  if (word < 0x00800000) return -200
  const mantissa = word & 0x7fffff
  const at = mantissa >>> 12
  const part = (mantissa & 0xfff) / 4096
  return 6.020599913279624 * ((word >>> 23) - 127 + LOGS[at]! + (LOGS[at + 1]! - LOGS[at]!) * part)
}

/** Amplitude of decibels within ±600, for every sample of what works on levels. */
export function quickAmplitude(db: number): number {
  const x = db / 6.020599913279624
  const floor = Math.floor(x)
  const at = (x - floor) * STEPS
  const step = at | 0
  return (EXPS[step]! + (EXPS[step + 1]! - EXPS[step]!) * (at - step)) * POWERS[floor + 200]!
}
