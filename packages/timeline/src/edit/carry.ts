import type { EffectOwner } from '../document/effect'
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

/** Gives a clip, track or reel copies of the effects of another. */
export function copyEffects(edit: Edit, owner: EffectOwner, fromId: string, toId: string): void {
  for (const effect of [...edit.all('effects')])
    if (effect.owner === owner && effect.ownerId === fromId)
      edit.put('effects', { ...effect, id: edit.newId(), ownerId: toId })
}

/** Takes away what belonged to entities that a change removed: markers and effects, subclips of sources,
 * transitions of cuts. */
export function settle(edit: Edit): void {
  settleTransitions(edit)
  const owners = [...edit.removed('clips'), ...edit.removed('reels'), ...edit.removed('tracks')]
  const gone = new Set([...owners, ...edit.removed('assets')])
  if (gone.size === 0) return
  for (const effect of edit.all('effects')) if (gone.has(effect.ownerId)) edit.remove('effects', effect.id)
  for (const marker of edit.all('markers'))
    if (gone.has(marker.clipId ?? '') || gone.has(marker.reelId ?? '')) edit.remove('markers', marker.id)
  for (const pick of edit.all('subclips')) if (gone.has(pick.assetId)) edit.remove('subclips', pick.id)
}
