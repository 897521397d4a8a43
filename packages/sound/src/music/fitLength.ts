import { BAND_HOP, bandFrames, BANDS, frameDistance, smoothed } from './bands'

/** Music brought to a length: stretches of it one after the other, and how they pass into each other. */
export interface FittedLength {
  /** Samples of the source, from and to. */
  parts: { from: number; to: number }[]
  /** Samples over which one part passes into the next, half of them on either side. */
  crossfade: number
  /** Samples at the end that are faded out; 0 where it ends as the music does. */
  fadeOut: number
  /** `matched`: joined where it sounds alike; `looped`: begun again, passing slowly; `faded`: cut and faded out. */
  manner: 'matched' | 'looped' | 'faded'
}

const RATE = 48_000
/** Frames between places that are tried for a join; how far it jumps is tried frame by frame, for beats are short. */
const STEP = 4
const framesOf = (samples: number) => Math.round(samples / BAND_HOP)
/** How far from the wished length the music may end by itself, so that a join can lie on a beat: samples. */
const SLACK = RATE * 0.8
/** What has to sound alike around a join: frames on either side, 1.2 s. */
const AROUND = STEP * Math.round(framesOf(RATE * 1.2) / STEP)
/** Shortest stretch that is begun again, and what stays untouched at both ends: samples. */
const LEAST = RATE * 3
const ENDS = RATE * 1.5
/** A join whose two sides are further apart than this part of any two places is heard. */
const ALIKE = 0.62
/** What a second off the wished length costs, in decibels a band. */
const OFF = 0.8

interface Join {
  /** Frame that is left, and how many further on (or back, below 0) it goes on. */
  at: number
  jump: number
  cost: number
}

/** The place where the sound is most like itself so many frames on. */
function bestAt(frames: Float32Array, lag: number, first: number, last: number): { at: number; cost: number } | null {
  const count = frames.length / BANDS
  const from = Math.max(first, AROUND)
  const to = Math.min(last, count - 1 - lag - AROUND - STEP)
  if (to < from) return null
  let sum = 0
  for (let t = from - AROUND; t < from + AROUND; t += STEP) sum += frameDistance(frames, t, t + lag)
  let best = { at: from, cost: sum }
  for (let t = from; t < to; t += STEP) {
    sum += frameDistance(frames, t + AROUND, t + AROUND + lag) - frameDistance(frames, t - AROUND, t - AROUND + lag)
    if (sum < best.cost) best = { at: t + STEP, cost: sum }
  }
  return { at: best.at, cost: (best.cost * STEP) / (2 * AROUND) }
}

/** How far any two places are apart in the middle: what a join is measured by. */
function typicalDistance(frames: Float32Array): number {
  const count = frames.length / BANDS
  const found: number[] = []
  // A stride that has nothing to do with any beat.
  for (let i = 0, t = 0, u = count / 3; i < 4000; i++) {
    t = (t + 97) % count
    u = (u + 61.8) % count
    found.push(frameDistance(frames, t, Math.floor(u)))
  }
  return Math.max(0.5, found.sort((a, b) => a - b)[found.length >> 1]!)
}

/** Brings a jump to where both sides fall together: first by fine frames, then by the wave itself. */
function refine(mono: Float32Array, fine: Float32Array, at: number, jump: number): number {
  const t = Math.round(at / BAND_HOP)
  const count = fine.length / BANDS
  const around = Math.round((RATE * 0.6) / BAND_HOP)
  let [best, least] = [jump, Infinity]
  for (let d = -STEP; d <= STEP; d++) {
    const lag = Math.round(jump / BAND_HOP) + d
    let [sum, n] = [0, 0]
    for (let i = t - around; i <= t + around; i++) {
      if (i < 0 || i + lag < 0 || i >= count || i + lag >= count) continue
      sum += frameDistance(fine, i, i + lag)
      n++
    }
    if (n > 0 && sum / n < least) [best, least] = [lag * BAND_HOP, sum / n]
  }
  const half = RATE * 0.08
  let [shift, most] = [0, 0]
  for (let d = -BAND_HOP; d <= BAND_HOP; d++) {
    let [sum, a2, b2] = [0, 0, 0]
    for (let i = -half; i < half; i += 3) {
      const a = mono[at + i] ?? 0
      const b = mono[at + i + best + d] ?? 0
      sum += a * b
      a2 += a * a
      b2 += b * b
    }
    const alike = sum / Math.sqrt(Math.max(1e-12, a2 * b2))
    if (alike > most) [shift, most] = [d, alike]
  }
  // Where the waves have nothing in common they need not lie on each other.
  return most > 0.35 ? best + shift : best
}

/** Parts joined at some places: each goes on `jump` samples from where the one before it was left. */
function partsOf(length: number, joins: readonly { at: number; jump: number }[], end: number) {
  const parts: { from: number; to: number }[] = []
  let from = 0
  for (const { at, jump } of joins) {
    parts.push({ from, to: at })
    from = at + jump
  }
  const total = parts.reduce((sum, part) => sum + part.to - part.from, 0)
  parts.push({ from, to: Math.max(from + 1, Math.min(length, from + end - total)) })
  return parts
}

/**
 * Shortens or lengthens music to a length. A stretch is left out, or begun again as often as it takes, where both sides
 * of the join sound alike in every band for more than a second, which music does at its bars; its own end stays, and
 * may come up to 0.8 s early or be faded out that much before its last sound. Music that never sounds like itself is
 * begun again with a long crossfade, or faded out.
 * @param mono samples at 48 kHz, all that may be used
 * @param target wished length in samples
 * @throws {Error} in words where that can't be
 */
export function fitLength(
  mono: Float32Array,
  target: number,
  progress: (part: number) => void = () => {},
): FittedLength {
  const { length } = mono
  if (target < RATE) throw new Error('Music can’t be made shorter than a second.')
  if (length < RATE * 2) throw new Error('This is too short to be made another length: two seconds at least.')
  if (Math.abs(target - length) < BAND_HOP)
    return { parts: [{ from: 0, to: length }], crossfade: 0, fadeOut: 0, manner: 'matched' }
  const fine = bandFrames(mono, (part) => progress(part * 0.8))
  const frames = smoothed(fine, STEP)
  const count = frames.length / BANDS
  const [first, last] = [framesOf(ENDS), count - framesOf(ENDS)]
  const shorter = target < length
  const missing = Math.abs(target - length)
  const slack = framesOf(SLACK)

  let best: (Join & { times: number }) | null = null
  const most = shorter ? 1 : Math.ceil(missing / LEAST)
  for (let times = 1; times <= most; times++) {
    const middle = framesOf(missing / times)
    if (middle > count) continue
    const reach = Math.ceil(slack / times)
    for (let lag = Math.max(1, middle - reach); lag <= middle + reach; lag++) {
      if (!shorter && lag * BAND_HOP < Math.min(LEAST, length / 3)) continue
      const found = bestAt(frames, lag, first, last)
      if (!found) continue
      const off = (Math.abs(lag * times - framesOf(missing)) * BAND_HOP) / RATE
      // Each time that something is begun again is a little more noticed.
      const cost = found.cost + OFF * off + 0.05 * (times - 1)
      if (!best || cost < best.cost)
        best = shorter ? { at: found.at, jump: lag, cost, times } : { at: found.at + lag, jump: -lag, cost, times }
    }
    progress(0.8 + (0.2 * times) / most)
  }
  if (best && best.cost < ALIKE * typicalDistance(frames)) {
    const at = best.at * BAND_HOP
    const jump = refine(mono, fine, at, best.jump * BAND_HOP)
    const joins = Array.from({ length: best.times }, () => ({ at, jump }))
    const parts = partsOf(length, joins, target)
    const cut = parts.at(-1)!.to < length
    return { parts, crossfade: RATE * 0.04, fadeOut: cut ? RATE * 0.6 : 0, manner: 'matched' }
  }
  if (shorter)
    return { parts: [{ from: 0, to: target }], crossfade: 0, fadeOut: Math.min(RATE * 3, target / 2), manner: 'faded' }
  // Begun again from its start, passing slowly from the one to the other.
  const crossfade = Math.min(RATE * 2, Math.floor(length / 3))
  const one = length - crossfade
  const joins = Array.from({ length: Math.ceil(missing / one) }, () => ({
    at: length - crossfade / 2,
    jump: crossfade - length,
  }))
  return { parts: partsOf(length, joins, target), crossfade, fadeOut: Math.min(RATE * 2, target / 4), manner: 'looped' }
}
