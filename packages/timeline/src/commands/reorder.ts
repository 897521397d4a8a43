import { z } from 'zod'
import { clipEnd } from '../document/query'
import { idSchema } from '../document/values'
import { closeRange, linkedClips, openGap, openTrack, quantise } from '../edit/lanes'
import { refuse } from '../edit/refuse'
import { defineCommand } from './define'

/**
 * Puts a clip, with what is linked to it, before another clip of its track, or at the end with `null`. The time it
 * leaves closes up on all open tracks, and room is made for it where it goes, so that the reel stays as long as it was.
 */
export const reorder = defineCommand({
  schema: z.object({ type: z.literal('reorder'), clipId: idSchema, before: idSchema.nullable() }),
  apply(edit, { clipId, before }) {
    const clip = edit.need('clips', clipId)
    const track = openTrack(edit, clip.trackId)
    if (before === clipId) refuse('nothing', 'The clip is there already.', [clipId])
    if (before && edit.need('clips', before).trackId !== track.id)
      refuse('kind', 'A clip is put before another one of its own track.', [clipId, before])
    const group = linkedClips(edit, [clipId])
    for (const member of group) edit.remove('clips', member.id)
    closeRange(edit, track, clip.start, clipEnd(clip), 'unlocked')
    const lane = edit.clipsOn(track.id)
    const at = before ? edit.need('clips', before).start : lane.length > 0 ? clipEnd(lane.at(-1)!) : 0
    if (before) openGap(edit, track, at, clip.length, 'unlocked')
    for (const member of group) {
      const start = quantise(edit, edit.need('tracks', member.trackId), member.start + at - clip.start)
      if (start < 0) refuse('before-start', 'A linked clip would begin before the start of the reel.', [member.id])
      edit.put('clips', { ...member, start })
    }
  },
  describe: () => 'Put a shot in another place',
})
