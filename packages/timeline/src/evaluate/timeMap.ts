import { bisector } from 'd3-array'
import type { Clip, SpeedPoint, TimeMap } from '../document/clip'

type Ramp = Extract<TimeMap, { kind: 'ramp' }>

/** Ticks of source played up to each point of a curve, counted from the first. */
const sums = new WeakMap<readonly SpeedPoint[], number[]>()
const byTime = bisector((point: SpeedPoint) => point.at).right

/**
 * Ticks of source between a point and a part `t` (0 to 1) of the way to the next, `length` ticks of clip time away.
 * The integral of the speed: of v₀ + (v₁ − v₀)·t for `linear`, of v₀ + (v₁ − v₀)(3t² − 2t³) for `smooth`.
 */
function travelled(a: SpeedPoint, b: SpeedPoint, length: number, t: number): number {
  const more = b.speed - a.speed
  if (a.ease === 'hold') return length * a.speed * t
  return length * (a.speed * t + more * (a.ease === 'linear' ? (t * t) / 2 : t * t * t - (t * t * t * t) / 2))
}

function sumsOf(points: readonly SpeedPoint[]): number[] {
  let found = sums.get(points)
  if (!found) {
    found = [0]
    for (let i = 1; i < points.length; i++) {
      const [a, b] = [points[i - 1]!, points[i]!]
      found.push(found[i - 1]! + travelled(a, b, b.at - a.at, 1))
    }
    sums.set(points, found)
  }
  return found
}

/** Ticks of source from the curve's first point to a moment; below zero before it. */
function playedUpTo(points: readonly SpeedPoint[], clipTime: number): number {
  const i = byTime(points, clipTime) - 1
  const first = points[0]!
  if (i < 0) return (clipTime - first.at) * first.speed
  const a = points[i]!
  const b = points[i + 1]
  const sum = sumsOf(points)[i]!
  if (!b) return sum + (clipTime - a.at) * a.speed
  return sum + travelled(a, b, b.at - a.at, (clipTime - a.at) / (b.at - a.at))
}

/** Source time in ticks at `clipTime` ticks. May lie outside the source: callers hold the edge or stay silent. */
export function mapTime(map: TimeMap, clipTime: number): number {
  switch (map.kind) {
    case 'freeze':
      return map.source
    case 'constant':
      return map.source + Math.round(clipTime * map.speed)
    case 'ramp': {
      const played = playedUpTo(map.points, clipTime) - playedUpTo(map.points, 0)
      return map.source + Math.round(map.backwards ? -played : played)
    }
  }
}

/** How fast a map plays at a moment, as a factor; below 0 backwards, 0 for a frozen moment. */
export function speedAt(map: TimeMap, clipTime: number): number {
  if (map.kind === 'freeze') return 0
  if (map.kind === 'constant') return map.speed
  const { points, backwards } = map
  const i = byTime(points, clipTime) - 1
  const [a, b] = [points[Math.max(i, 0)]!, points[i + 1]]
  const t = i < 0 || !b ? 0 : (clipTime - a.at) / (b.at - a.at)
  const way = !b || a.ease === 'hold' ? 0 : a.ease === 'linear' ? t : t * t * (3 - 2 * t)
  const speed = a.speed + (i < 0 || !b ? 0 : (b.speed - a.speed) * way)
  return backwards ? -speed : speed
}

/** Whether a map plays backwards. */
export function isBackwards(map: TimeMap): boolean {
  return map.kind === 'constant' ? map.speed < 0 : map.kind === 'ramp' && map.backwards
}

/**
 * Clip time in ticks at which a map reaches a source time: the first from which it has. `null` for a frozen moment,
 * which reaches none.
 */
export function clipTimeAt(map: TimeMap, source: number): number | null {
  if (map.kind === 'freeze') return null
  if (map.kind === 'constant') return Math.round((source - map.source) / map.speed)
  // It rises (or falls) without a rest, so halving finds it; beyond the curve the speed is that of its ends.
  const wanted = (map.backwards ? map.source - source : source - map.source) + playedUpTo(map.points, 0)
  return inverse(map, wanted)
}

function inverse({ points }: Ramp, played: number): number {
  const [first, last] = [points[0]!, points.at(-1)!]
  const whole = sumsOf(points).at(-1)!
  if (played <= 0) return Math.round(first.at + played / first.speed)
  if (played >= whole) return Math.round(last.at + (played - whole) / last.speed)
  let [low, high] = [first.at, last.at]
  while (high - low > 1) {
    const middle = Math.floor((low + high) / 2)
    if (playedUpTo(points, middle) < played) low = middle
    else high = middle
  }
  return played - playedUpTo(points, low) <= playedUpTo(points, high) - played ? low : high
}

/** A map that shows other footage: `by` ticks later in the source at each moment. */
export function shiftMap<M extends TimeMap>(map: M, by: number): M {
  return { ...map, source: map.source + by }
}

/** A map as it is when all of a clip plays `factor` times as fast: what was at clip time c is at c ÷ factor. */
export function scaleMap(map: TimeMap, factor: number): TimeMap {
  if (map.kind === 'freeze') return map
  if (map.kind === 'constant') return { ...map, speed: map.speed * factor }
  const points = map.points.map((point) => ({
    ...point,
    at: Math.round(point.at / factor),
    speed: point.speed * factor,
  }))
  return { ...map, points }
}

/** Source time in ticks shown by `clip` at reel position `at`, also beyond its trims. */
export function sourceTimeAt(clip: Pick<Clip, 'start' | 'head' | 'map'>, at: number): number {
  return mapTime(clip.map, clip.head + at - clip.start)
}

/**
 * Source time of the picture shown at a reel position. Backwards, a frame shows from the moment its end is reached: a
 * tick before it, so that half-open frames are met from the other side.
 */
export function pictureTimeAt(clip: Pick<Clip, 'start' | 'head' | 'map'>, at: number): number {
  return sourceTimeAt(clip, at) - (isBackwards(clip.map) ? 1 : 0)
}

/** Reel position in ticks at which a clip reaches a source time, also beyond its trims; `null` when it is frozen. */
export function positionOf(clip: Pick<Clip, 'start' | 'head' | 'map'>, source: number): number | null {
  const time = clipTimeAt(clip.map, source)
  return time === null ? null : clip.start + time - clip.head
}

/** The stretch of source a clip shows, in ticks, half-open: the lower end first, also when it plays backwards. */
export function clipSourceRange(clip: Pick<Clip, 'start' | 'length' | 'head' | 'map'>): { from: number; to: number } {
  const [a, b] = [sourceTimeAt(clip, clip.start), sourceTimeAt(clip, clip.start + clip.length)]
  return { from: Math.min(a, b), to: Math.max(a, b) }
}

/**
 * How far a clip could show before its start and after its end, in ticks of the reel, by what its source holds.
 * Negative where it already shows more than there is.
 * @param held ticks that the source has; `Infinity` for what never ends
 */
export function reachOf(
  clip: Pick<Clip, 'start' | 'length' | 'head' | 'map'>,
  held: number,
): { before: number; after: number } {
  if (held === Infinity || clip.map.kind === 'freeze') return { before: Infinity, after: Infinity }
  const end = clip.start + clip.length
  const back = isBackwards(clip.map)
  return {
    before: clip.start - positionOf(clip, back ? held : 0)!,
    after: positionOf(clip, back ? 0 : held)! - end,
  }
}
