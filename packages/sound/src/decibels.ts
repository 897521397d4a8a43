/** Levels at or below this are silence. */
export const SILENCE_DB = -96

/**
 * Factor of a level in decibels: 10^(dB/20). Computed by repeated squaring and a series, not by the engine's `pow`,
 * which is free to differ: a mix must come out alike everywhere.
 */
export function decibelsToGain(decibels: number): number {
  if (decibels <= SILENCE_DB) return 0
  // 10^(dB/20) = e^(dB · ln 10 / 20); the exponent is halved until the series needs few terms, then squared back.
  let x = (decibels * 2.302585092994046) / 20
  let halvings = 0
  while (x > 0.25 || x < -0.25) {
    x /= 2
    halvings++
  }
  let sum = 1
  for (let n = 12; n >= 1; n--) sum = 1 + (x / n) * sum
  for (let i = 0; i < halvings; i++) sum *= sum
  return sum
}

/** Level in decibels of a factor; −∞ for 0. */
export function gainToDecibels(gain: number): number {
  return gain > 0 ? 20 * Math.log10(gain) : -Infinity
}
