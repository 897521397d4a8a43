/** A sweep of 20 ms from 600 Hz to 6 kHz: it is found again however a room colours it. At 48 kHz. */
export const PROBE: Float32Array = Float32Array.from({ length: 960 }, (_, n) => {
  const t = n / 48_000
  const window = 0.5 - 0.5 * Math.cos((2 * Math.PI * n) / 960)
  return 0.5 * window * Math.sin(2 * Math.PI * (600 * t + (5400 / 2 / 0.02) * t * t))
})

/** Longest way through loudspeaker and microphone that is looked for: half a second. */
const LONGEST = 24_000

/** How much louder than everything else a place has to answer to be believed. */
const CLEAR = 3

/**
 * How many samples later than it was played a sound arrives: {@link PROBE} is looked for by its correlation with what
 * was recorded.
 * @param recorded mono at 48 kHz
 * @param played samples of `recorded` at which the probe was sent
 * @returns the median of the delays found, or `null` when fewer than half were found, or they disagree by over 3 ms
 */
export function delayOf(recorded: Float32Array, played: readonly number[]): number | null {
  const found: number[] = []
  for (const at of played) {
    const last = Math.min(LONGEST, recorded.length - at - PROBE.length)
    const answers: number[] = []
    for (let lag = 0; lag <= last; lag++) {
      let sum = 0
      for (let i = 0; i < PROBE.length; i++) sum += recorded[at + lag + i]! * PROBE[i]!
      answers.push(Math.abs(sum))
    }
    let best = 0
    for (let lag = 0; lag < answers.length; lag++) if (answers[lag]! > answers[best]!) best = lag
    // Beside the answer itself, which rings for as long as the probe is.
    const rest = answers.filter((_, lag) => Math.abs(lag - best) > PROBE.length)
    const mean = Math.sqrt(rest.reduce((sum, value) => sum + value * value, 0) / Math.max(1, rest.length))
    if (answers.length > 0 && answers[best]! > Math.max(1e-4, CLEAR * mean * 2)) found.push(best)
  }
  if (found.length === 0 || found.length * 2 < played.length) return null
  const sorted = found.sort((a, b) => a - b)
  const middle = sorted[sorted.length >> 1]!
  const near = sorted.filter((delay) => Math.abs(delay - middle) <= 144)
  return near.length * 2 >= played.length ? middle : null
}
