/**
 * Powers and logarithms made of sums and products alone: engines are free to differ in their own, and what is drawn
 * and mixed must come out alike everywhere.
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

/** x to the power of y, for x of 0 and more. */
export const power = (x: number, y: number): number => (x <= 0 ? 0 : exp2(y * log2(x)))
