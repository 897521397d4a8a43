import type { Clip } from '../document/clip'
import { clipEnd } from '../document/query'
import { sourceOf } from '../document/source'
import { grainOf } from '../edit/lanes'
import type { Edit } from '../edit/edit'
import { clipSourceRange, reachOf } from '../evaluate/timeMap'

/** A stretch of reel positions in ticks, both ends included. */
export interface Limits {
  min: number
  max: number
}

/** Ticks up to the next step of a grid; a division's hair above a step is that step. */
export function snapUp(ticks: number, grain: number): number {
  return Math.ceil(ticks / grain - 1e-6) * grain
}

/** Ticks down to the last step of a grid; a division's hair below a step is that step. */
export function snapDown(ticks: number, grain: number): number {
  return Math.floor(ticks / grain + 1e-6) * grain
}

/** How far an edge can go by what its source holds and by the clip's least length; neighbours do not count. */
export function sourceLimits(edit: Edit, clip: Clip, edge: 'start' | 'end'): Limits {
  const one = grainOf(edit, edit.need('tracks', clip.trackId))
  const { before, after } = reachOf(clip, sourceOf(edit, clip)?.length ?? Infinity)
  if (edge === 'start') {
    const begins = before === Infinity ? -Infinity : snapUp(clip.start - before, one)
    return { min: Math.min(begins, clip.start), max: clipEnd(clip) - one }
  }
  // The last frame of a source may be cut short by the grid; it still shows, so the edge may go to the next grid line.
  const ends = after === Infinity ? Infinity : snapUp(clipEnd(clip) + after, one)
  return { min: clip.start + one, max: Math.max(ends, clipEnd(clip)) }
}

/**
 * How far an edge of a clip can go in the reel: to the ends of its source and, in a plain trim, to the neighbours. A
 * rippling start may go before the reel's beginning, since what is added there pushes everything later.
 */
export function trimLimits(edit: Edit, clip: Clip, edge: 'start' | 'end', mode: 'plain' | 'ripple' = 'plain'): Limits {
  const limits = sourceLimits(edit, clip, edge)
  if (mode === 'ripple') return limits
  const lane = edit.clipsOn(clip.trackId)
  const place = lane.findIndex((other) => other.id === clip.id)
  if (edge === 'start') {
    const before = lane[place - 1]
    return { min: Math.max(0, before ? clipEnd(before) : 0, limits.min), max: limits.max }
  }
  return { min: limits.min, max: Math.min(lane[place + 1]?.start ?? Infinity, limits.max) }
}

/** How far a clip's source can be slipped under it, in ticks of source time; both 0 when there is nothing hidden. */
export function slipLimits(edit: Edit, clip: Clip): Limits {
  const held = sourceOf(edit, clip)?.length ?? 0
  if (held === Infinity) return { min: -Infinity, max: Infinity }
  const { from, to } = clipSourceRange(clip)
  return { min: Math.min(0, -from), max: Math.max(0, held - to) }
}
