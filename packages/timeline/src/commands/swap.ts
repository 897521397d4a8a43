import { z } from 'zod'
import { clipEnd } from '../document/query'
import { idSchema } from '../document/values'
import { linkedClips, openTrack, quantise } from '../edit/lanes'
import { refuse } from '../edit/refuse'
import { defineCommand } from './define'

/**
 * Changes places with the next or the previous clip of the track; the time between them, if any, stays between them.
 */
export const swap = defineCommand({
  schema: z.object({ type: z.literal('swap'), clipId: idSchema, with: z.enum(['next', 'previous']) }),
  apply(edit, { clipId, with: side }) {
    const clip = edit.need('clips', clipId)
    const track = openTrack(edit, clip.trackId)
    const lane = edit.clipsOn(track.id)
    const place = lane.findIndex((other) => other.id === clipId)
    const other = lane[side === 'next' ? place + 1 : place - 1]
    if (!other) return refuse('nothing', `There is no ${side} clip on ${track.name}.`, [clipId])
    const [left, right] = side === 'next' ? [clip, other] : [other, clip]
    const earlier = left.start - right.start
    const later = clipEnd(right) - clipEnd(left)
    const touched: string[] = []
    for (const [lead, by] of [
      [left, later],
      [right, earlier],
    ] as const)
      for (const member of linkedClips(edit, [lead.id])) {
        const start = quantise(edit, edit.need('tracks', member.trackId), member.start + by)
        if (start < 0) refuse('before-start', 'A linked clip would begin before the start of the reel.', [member.id])
        edit.patchClip(member.id, { start })
        touched.push(member.trackId)
      }
  },
  describe: ({ with: side }) => `Swapped a clip with the ${side}`,
})
