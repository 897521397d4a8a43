import type { TrackRow } from '~/features/registry/feature'
import { clipEnd, tracksOf, type Clip, type Project } from '@dusk/timeline'

/** A track's place on the desk, in pixels from the top of the first one. */
export type Row = TrackRow

/** Pixels between rows. */
const GAP = 2

/** Rows from top to bottom: pictures with the one in front first, then sounds. */
export function rowsOf(project: Project, reelId: string): Row[] {
  const tracks = tracksOf(project, reelId)
  const pictures = tracks.filter((track) => track.kind === 'picture').reverse()
  const sounds = tracks.filter((track) => track.kind === 'sound')
  let top = 0
  return [...pictures, ...sounds].map((track) => {
    const row = { track, top, height: track.height }
    top += track.height + GAP
    return row
  })
}

/** Height of all rows. */
export function rowsHeight(rows: readonly Row[]): number {
  const last = rows.at(-1)
  return last ? last.top + last.height + GAP : 0
}

/** The row at a height; above the first and below the last, those. */
export function rowAt(rows: readonly Row[], y: number): Row | null {
  for (const row of rows) if (y < row.top + row.height + GAP) return row
  return rows.at(-1) ?? null
}

/** Pixels below which a clip can't be grabbed: seen from far, there would be thousands under the pointer. */
export const THINNEST = 4
/** Pixels from an edge of a clip, or of what lies on it, within which it is the edge that is meant. */
export const EDGE = 7
/**
 * Pixels of the strip with a clip's name, where a row is high enough for one. Nothing else lies there: a clip is taken
 * hold of at its edges whatever is on it.
 */
export const headerOf = (height: number) => (height >= 36 ? 15 : 0)
/** Pixels that the heads of the tracks take, before features ask for more. */
export const HEADS = 204

/** Index of the first clip that ends after `tick`. */
export function firstVisible(clips: readonly Clip[], tick: number): number {
  let low = 0
  let high = clips.length
  while (low < high) {
    const middle = (low + high) >> 1
    if (clipEnd(clips[middle]!) <= tick) low = middle + 1
    else high = middle
  }
  return low
}

/**
 * The clip of a row at a reel position.
 * @param thinnest length in ticks below which clips are passed over, unless they are `held`
 */
export function clipAt(
  clips: readonly Clip[],
  tick: number,
  thinnest = 0,
  held: ReadonlySet<string> = new Set(),
): Clip | null {
  const clip = clips[firstVisible(clips, tick)]
  return clip && clip.start <= tick && (clip.length >= thinnest || held.has(clip.id)) ? clip : null
}
