import { clipEnd } from '../document/query'
import { MAX_TICKS } from '../document/values'
import type { Edit } from '../edit/edit'
import { refuse } from '../edit/refuse'

/** Refuses a change that pushes a clip past the longest position a reel can have. */
export function refuseOutside(edit: Edit): void {
  for (const { kind, after } of edit.changes()) {
    if (kind !== 'clips' || !after) continue
    const clip = after as { start: number; length: number; id: string }
    if (clipEnd(clip) > MAX_TICKS) refuse('limit', 'A reel is at most 24 hours long.', [clip.id])
    if (clip.start < 0) refuse('before-start', 'A clip can’t begin before the start of the reel.', [clip.id])
  }
}
