import type { Rate } from './ticks'

/** The frame rates a reel can have, slowest first. */
export const REEL_RATES: readonly Rate[] = [
  { num: 24000, den: 1001 },
  { num: 24, den: 1 },
  { num: 25, den: 1 },
  { num: 30000, den: 1001 },
  { num: 30, den: 1 },
  { num: 48, den: 1 },
  { num: 50, den: 1 },
  { num: 60000, den: 1001 },
  { num: 60, den: 1 },
]

/** A rate as people write it: `23.976`, `25`, `29.97`. */
export function formatRate(rate: Rate): string {
  return String(Number((rate.num / rate.den).toFixed(3)))
}

/** The nearest rate a reel can have to a measured number of frames a second. */
export function nearestRate(framesPerSecond: number): Rate {
  let best = REEL_RATES[0]!
  for (const rate of REEL_RATES) {
    const distance = Math.abs(rate.num / rate.den - framesPerSecond)
    if (distance < Math.abs(best.num / best.den - framesPerSecond)) best = rate
  }
  return best
}

/** The reel rate that a typed number means, or `null` when there is none within a hundredth. */
export function rateFromNumber(framesPerSecond: number): Rate | null {
  if (!Number.isFinite(framesPerSecond)) return null
  const rate = nearestRate(framesPerSecond)
  return Math.abs(rate.num / rate.den - framesPerSecond) < 0.01 ? rate : null
}
