import type { Clip } from '../document/clip'
import { clipEnd } from '../document/query'
import { sourceOf } from '../document/source'
import { MAX_TICKS } from '../document/values'
import type { Edit } from '../edit/edit'
import { refuseOverlap } from '../edit/lanes'
import { refuse } from '../edit/refuse'

/** Refuses a change that pushes a clip past the longest position a reel can have. */
export function refuseOutside(edit: Edit): void {
  for (const { kind, after } of edit.changes()) {
    if (kind !== 'clips' || !after) continue
    const clip = after as { start: number; length: number; id: string }
    if (clipEnd(clip) > MAX_TICKS) refuse('limit', 'A reel is at most 24 hours long.', [clip.id])
    // What is put back may have lost its track or source to another window.
    edit.need('tracks', (after as Clip).trackId)
    if (!sourceOf(edit, after as Clip)) refuse('missing', 'The source of this clip is no longer there.', [clip.id])
    if (clip.start < 0) refuse('before-start', 'A clip can’t begin before the start of the reel.', [clip.id])
  }
}

/** Refuses overlaps on every track that was touched: the last guard, also of what is taken back. */
export function refuseOverlaps(edit: Edit): void {
  const touched = new Set<string>()
  for (const { kind, after } of edit.changes()) if (kind === 'clips' && after) touched.add((after as Clip).trackId)
  refuseOverlap(edit, touched)
}

/** Refuses links across reels: sync means nothing there. */
export function refuseTornLinks(edit: Edit): void {
  const links = new Set<string>()
  for (const { kind, after } of edit.changes()) {
    if (kind === 'clips' && after && (after as Clip).link) links.add((after as Clip).link!)
  }
  if (links.size === 0) return
  const reels = new Map<string, string>()
  for (const clip of edit.all('clips')) {
    if (!clip.link || !links.has(clip.link)) continue
    const { reelId } = edit.need('tracks', clip.trackId)
    if (reels.has(clip.link) && reels.get(clip.link) !== reelId)
      refuse('link', 'Clips of different reels can’t be linked.', [clip.id])
    reels.set(clip.link, reelId)
  }
}
