import { z } from 'zod'
import { clipName } from '../document/source'
import { idSchema, signedTicksSchema } from '../document/values'
import { leadTrack, linkedClips, quantise } from '../edit/lanes'
import { refuse } from '../edit/refuse'
import { shiftMap } from '../evaluate/timeMap'
import { count, defineCommand } from './define'
import { slipLimits } from './trimLimits'

/** Shows another stretch of the source in the same place: later footage with a positive `by`. Linked clips go along. */
export const slip = defineCommand({
  schema: z.object({
    type: z.literal('slip'),
    clipIds: z.array(idSchema).min(1).max(5000),
    /** Source time in ticks; whole frames of the reel where a picture is among them. */
    by: signedTicksSchema,
    linked: z.boolean().default(true),
  }),
  apply(edit, { clipIds, by, linked }) {
    const clips = linkedClips(edit, clipIds, linked)
    const shift = quantise(edit, leadTrack(edit, clips), by)
    for (const clip of clips) {
      if (clip.map.kind === 'freeze') refuse('kind', 'A frozen frame has nothing to slip.', [clip.id])
      const limits = slipLimits(edit, clip)
      // A sound stream that ends a little before its picture does not hold the picture back.
      if ((shift < limits.min || shift > limits.max) && (clipIds.includes(clip.id) || clips.length === 1))
        refuse('limit', `${clipName(edit, clip)} has nothing more at this end.`, [clip.id])
      edit.patchClip(clip.id, { map: shiftMap(clip.map, shift) })
    }
  },
  describe: ({ clipIds }) => `Slipped ${count(clipIds.length, 'clip')}`,
})
