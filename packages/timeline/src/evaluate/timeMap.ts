import type { Clip, TimeMap } from '../document/clip'

/** Source time in ticks at `clipTime` ticks. May lie outside the source: callers hold the edge or stay silent. */
export function mapTime(map: TimeMap, clipTime: number): number {
  return map.kind === 'freeze' ? map.source : map.source + clipTime
}

/** Source time in ticks shown by `clip` at reel position `at`, also beyond its trims. */
export function sourceTimeAt(clip: Pick<Clip, 'start' | 'head' | 'map'>, at: number): number {
  return mapTime(clip.map, clip.head + at - clip.start)
}

/** The stretch of source a clip shows, in ticks, half-open. */
export function clipSourceRange(clip: Pick<Clip, 'start' | 'length' | 'head' | 'map'>): { from: number; to: number } {
  return { from: sourceTimeAt(clip, clip.start), to: sourceTimeAt(clip, clip.start + clip.length) }
}
