import type { Edit } from './edit'
import { settleTransitions } from './transitions'

/**
 * Moves the markers of a reel with its clips. What lies at or after `to` shifts by `by`; when time is taken out
 * (`from` before `to`), points inside it go to where it was, and ranges lose what they had in it: nothing is lost.
 */
export function shiftMarkers(edit: Edit, reelId: string, from: number, to: number, by: number): void {
  for (const marker of edit.all('markers')) {
    if (marker.reelId !== reelId) continue
    const land = (at: number) => (at >= to ? Math.max(at + by, from) : Math.min(at, by < 0 ? from : at))
    const at = land(marker.at)
    const end = land(marker.at + marker.length)
    if (at !== marker.at || end - at !== marker.length)
      edit.put('markers', { ...marker, at, length: Math.max(0, end - at) })
  }
}

/** Takes away what belonged to entities that a change removed: markers of clips and reels, subclips of sources,
 * transitions of cuts. */
export function settle(edit: Edit): void {
  settleTransitions(edit)
  const gone = new Set([...edit.removed('clips'), ...edit.removed('reels'), ...edit.removed('assets')])
  if (gone.size === 0) return
  for (const marker of edit.all('markers'))
    if (gone.has(marker.clipId ?? '') || gone.has(marker.reelId ?? '')) edit.remove('markers', marker.id)
  for (const pick of edit.all('subclips')) if (gone.has(pick.assetId)) edit.remove('subclips', pick.id)
}
