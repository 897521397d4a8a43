import { z } from 'zod'
import type { Clip } from '../document/clip'
import { leaderOf, offsetOf, slipOf } from '../document/linkSync'
import { idSchema } from '../document/values'
import type { Edit } from '../edit/edit'
import { dropLoneLinks, openTrack, quantise } from '../edit/lanes'
import { refuse } from '../edit/refuse'
import { count, defineCommand } from './define'

const clipIds = z.array(idSchema).min(1).max(5000)

function openClips(edit: Edit, ids: readonly string[]): Clip[] {
  const clips = [...new Set(ids)].map((id) => edit.need('clips', id))
  for (const clip of clips) openTrack(edit, clip.trackId)
  return clips
}

function refuseReels(edit: Edit, clips: readonly Clip[]): void {
  const reels = new Set(clips.map((clip) => edit.need('tracks', clip.trackId).reelId))
  if (reels.size > 1) refuse('link', 'Clips of different reels can’t be tied together.')
}

/** Links clips as they lie: from now on this is what "in sync" means for them. */
export const link = defineCommand({
  schema: z.object({ type: z.literal('link'), clipIds: clipIds.min(2) }),
  apply(edit, command) {
    const clips = openClips(edit, command.clipIds)
    if (clips.length < 2) refuse('link', 'It takes two clips to link.')
    refuseReels(edit, clips)
    const lead = leaderOf(edit.base, clips)!
    const id = edit.newId()
    const old = clips.map((clip) => clip.link)
    for (const clip of clips) edit.patchClip(clip.id, { link: id, sync: offsetOf(lead, clip) })
    dropLoneLinks(edit, old)
  },
  describe: ({ clipIds: ids }) => `Linked ${count(ids.length, 'clip')}`,
})

/** Unties clips from whatever they are linked to; a sound so detached moves alone. */
export const unlink = defineCommand({
  schema: z.object({ type: z.literal('unlink'), clipIds }),
  apply(edit, command) {
    const clips = openClips(edit, command.clipIds)
    if (clips.every((clip) => !clip.link)) refuse('nothing', 'These clips are not linked.')
    for (const clip of clips) edit.patchClip(clip.id, { link: null, sync: 0 })
    dropLoneLinks(
      edit,
      clips.map((clip) => clip.link),
    )
  },
  describe: ({ clipIds: ids }) => `Unlinked ${count(ids.length, 'clip')}`,
})

/** Ties clips into a group that is selected and moved as one. */
export const group = defineCommand({
  schema: z.object({ type: z.literal('group'), clipIds: clipIds.min(2) }),
  apply(edit, command) {
    const clips = openClips(edit, command.clipIds)
    refuseReels(edit, clips)
    const id = edit.newId()
    for (const clip of clips) edit.patchClip(clip.id, { group: id })
  },
  describe: ({ clipIds: ids }) => `Grouped ${count(ids.length, 'clip')}`,
})

export const ungroup = defineCommand({
  schema: z.object({ type: z.literal('ungroup'), clipIds }),
  apply(edit, command) {
    const groups = new Set(openClips(edit, command.clipIds).map((clip) => clip.group))
    groups.delete(null)
    if (groups.size === 0) refuse('nothing', 'These clips are in no group.')
    for (const clip of [...edit.all('clips')])
      if (clip.group && groups.has(clip.group)) edit.patchClip(clip.id, { group: null })
  },
  describe: () => 'Ungrouped clips',
})

/** Puts clips that slipped back in sync with the picture they are linked to. */
export const resync = defineCommand({
  schema: z.object({ type: z.literal('resync'), clipIds }),
  apply(edit, command) {
    const touched: string[] = []
    for (const clip of openClips(edit, command.clipIds)) {
      if (!clip.link) continue
      const lead = leaderOf(edit.base, edit.linkedTo(clip.link))!
      const slip = slipOf(lead, clip)
      if (slip === 0) continue
      const start = quantise(edit, edit.need('tracks', clip.trackId), clip.start - slip)
      if (start < 0) refuse('before-start', 'In sync, this clip would begin before the start of the reel.', [clip.id])
      edit.patchClip(clip.id, { start })
      touched.push(clip.trackId)
    }
    if (touched.length === 0) refuse('nothing', 'Nothing here is out of sync.')
  },
  describe: ({ clipIds: ids }) => `Put ${count(ids.length, 'clip')} back in sync`,
})
