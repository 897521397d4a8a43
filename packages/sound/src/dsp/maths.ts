import { sinCosDegrees } from '@dusk/timeline'

/**
 * Powers and logarithms made of sums and products alone: engines are free to differ in their own, and a mix must come
 * out alike everywhere.
 */
const POWERS = new Float64Array(401)
{
  const middle = 200
  POWERS[middle] = 1
  for (let i = 1; i <= middle; i++) {
    POWERS[middle + i] = POWERS[middle + i - 1]! * 2
    POWERS[middle - i] = POWERS[middle - i + 1]! / 2
  }
}
const LN2 = 0.6931471805599453

/** 2 to the power of x, for x within ±200; error below 1e-12. */
export function exp2(x: number): number {
  const whole = Math.floor(x)
  const y = (x - whole) * LN2
  let sum = 1
  for (let n = 13; n >= 1; n--) sum = 1 + (y / n) * sum
  return (POWERS[Math.min(Math.max(whole, -200), 200) + 200] ?? 0) * sum
}

/** Natural exponential. */
export const exp = (x: number): number => exp2(x / LN2)

const bits = new DataView(new ArrayBuffer(8))

/** Logarithm to base 2 of a positive number; −1e9 for 0 and below. Error below 1e-12. */
export function log2(x: number): number {
  if (!(x > 1e-300)) return -1e9
  bits.setFloat64(0, x)
  const high = bits.getUint32(0)
  let exponent = ((high >>> 20) & 0x7ff) - 1023
  bits.setUint32(0, (high & 0xfffff) | (1023 << 20))
  let mantissa = bits.getFloat64(0)
  if (mantissa > 1.4142135623730951) {
    mantissa /= 2
    exponent++
  }
  // ln m = 2 artanh((m − 1) / (m + 1))
  const s = (mantissa - 1) / (mantissa + 1)
  const s2 = s * s
  let sum = 0
  for (let n = 19; n >= 1; n -= 2) sum = 1 / n + s2 * sum
  return exponent + (2 * s * sum) / LN2
}

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
