import { z } from 'zod'
import type { Asset } from '../document/asset'
import type { MediaClip } from '../document/clip'
import { clipEnd } from '../document/query'
import { sourceOf } from '../document/source'
import { idSchema } from '../document/values'
import type { Edit } from '../edit/edit'
import { dropLoneLinks, grainOf, openTrack, quantise, sliceClip } from '../edit/lanes'
import { refuse } from '../edit/refuse'
import { reachOf } from '../evaluate/timeMap'
import { defineCommand } from './define'
import { withoutTake } from './takes'
import { snapDown, snapUp } from './trimLimits'

/**
 * Puts a source of the library in another one's place: its clips, takes and kept parts play the new file, and the old
 * one leaves the library. What the new file does not reach is cut off; where it has nothing of a clip, the clip goes.
 */
export const replaceSource = defineCommand({
  schema: z.object({ type: z.literal('replaceSource'), assetId: idSchema, withId: idSchema }),
  apply(edit, { assetId, withId }) {
    const old = edit.need('assets', assetId)
    const next = edit.need('assets', withId)
    if (assetId === withId) refuse('nothing', 'That is the same source.', [assetId])
    if (old.kind !== next.kind)
      refuse('kind', `${old.name} is a ${old.kind}, ${next.name} a ${next.kind}: it can’t take its place.`, [withId])
    const links = new Set<string | null>()
    for (const clip of [...edit.all('clips')]) {
      if (clip.kind !== 'media') continue
      const taken = takesFrom(clip, old, next)
      if (clip.assetId === assetId) {
        if (!playFrom(edit, taken, next)) links.add(clip.link)
      } else if (taken !== clip) edit.put('clips', taken)
    }
    dropLoneLinks(edit, links)
    for (const pick of [...edit.all('subclips')]) {
      if (pick.assetId !== assetId) continue
      const to = next.kind === 'still' ? pick.to : Math.min(pick.to, next.length)
      if (to > pick.from) edit.put('subclips', { ...pick, assetId: withId, to })
      else edit.remove('subclips', pick.id)
    }
    const { name, folderId, label, note } = old
    edit.put('assets', { ...next, name, folderId, label, note })
    edit.remove('assets', assetId)
  },
  describe: () => 'Put another file in a source’s place',
})

/** A clip whose takes of one source are played from another, where that has their sound. */
function takesFrom(clip: MediaClip, old: Asset, next: Asset): MediaClip {
  if (!clip.takes?.some((take) => take.assetId === old.id)) return clip
  const takes = clip.takes
    .filter((take) => take.assetId !== old.id || next.sounds[take.stream])
    .map((take) => (take.assetId === old.id ? { ...take, assetId: next.id } : take))
  return takes.length > 1 ? { ...clip, takes } : withoutTake(clip, old.id)
}

/** Plays the new source in one clip, as far as it reaches. Returns whether anything of the clip is left. */
function playFrom(edit: Edit, clip: MediaClip, next: Asset): boolean {
  const played = { ...clip, assetId: next.id }
  const source = sourceOf(edit, played)!
  if (clip.stream === null ? !source.picture : !source.sounds[clip.stream]) return takeAway(edit, clip)
  edit.put('clips', played)
  if (clip.map.kind === 'freeze' && next.kind !== 'still' && clip.map.source >= next.length)
    edit.patchClip(clip.id, { map: { kind: 'freeze', source: Math.max(0, next.length - 1) } })
  // What was held beyond the old source's end is held beyond this one's: only what is lost now is cut.
  const had = reachOf(clip, sourceOf(edit, clip)?.length ?? 0)
  const has = reachOf(played, source.length)
  const lost = { start: has.before < Math.min(0, had.before), end: has.after < Math.min(0, had.after) }
  if (!lost.start && !lost.end) return true
  const track = openTrack(edit, clip.trackId)
  const one = grainOf(edit, track)
  // A frame that the source's end cuts short still shows.
  const start = lost.start ? snapDown(clip.start - has.before, one) : clip.start
  const end = lost.end ? snapUp(clipEnd(clip) + has.after, one) : clipEnd(clip)
  if (end - start < one / 2) return takeAway(edit, clip)
  edit.patchClip(clip.id, sliceClip(played, quantise(edit, track, start), quantise(edit, track, end)))
  return true
}

function takeAway(edit: Edit, clip: MediaClip): boolean {
  openTrack(edit, clip.trackId)
  edit.remove('clips', clip.id)
  return false
}
