import { z } from 'zod'
import { clipEnd } from '../document/query'
import { idSchema, ticksSchema } from '../document/values'
import { linkedClips, splitClips } from '../edit/lanes'
import { refuse } from '../edit/refuse'
import { defineCommand } from './define'

/**
 * Cuts clips in two at a reel position: those named with what is linked to them, or, with none named, all of the
 * reel.
 */
export const split = defineCommand({
  schema: z.object({
    type: z.literal('split'),
    reelId: idSchema,
    at: ticksSchema,
    clipIds: z.array(idSchema).max(5000).nullable(),
  }),
  apply(edit, { reelId, at, clipIds }) {
    let clips
    if (clipIds) clips = linkedClips(edit, clipIds)
    else {
      const tracks = new Set<string>()
      for (const track of edit.all('tracks')) if (track.reelId === reelId && !track.locked) tracks.add(track.id)
      clips = [...edit.all('clips')].filter((clip) => tracks.has(clip.trackId) && clip.start < at && clipEnd(clip) > at)
    }
    if (splitClips(edit, clips, at).size === 0) refuse('nothing', 'There is no clip under the playhead to split.')
  },
  describe: ({ clipIds }) => (clipIds ? 'Split a clip' : 'Split all tracks'),
})
