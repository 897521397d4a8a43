import { z } from 'zod'
import type { Clip } from '../document/clip'
import { clipEnd } from '../document/query'
import { idSchema, ticksSchema } from '../document/values'
import { copyEffects } from '../edit/carry'
import { linkedClips, openGap, openTrack, scopeSchema, quantise, splitClips } from '../edit/lanes'
import { refuse } from '../edit/refuse'
import { sourceTimeAt } from '../evaluate/timeMap'
import { defineCommand } from './define'

/**
 * Holds the frame at a position for a while: the clip is cut there, what comes later makes room, the frame fills it.
 */
export const freeze = defineCommand({
  schema: z.object({
    type: z.literal('freeze'),
    clipId: idSchema,
    at: ticksSchema,
    length: ticksSchema.min(1),
    scope: scopeSchema.default('unlocked'),
  }),
  apply(edit, { clipId, at, length, scope }) {
    const clip = edit.need('clips', clipId)
    const track = openTrack(edit, clip.trackId)
    if (track.kind !== 'picture') refuse('kind', 'Only a picture can be frozen.', [clipId])
    const [begin, long] = [quantise(edit, track, at), quantise(edit, track, length)]
    if (begin < clip.start || begin >= clipEnd(clip)) refuse('nothing', 'The playhead is not on this clip.', [clipId])
    if (long <= 0) refuse('length', 'A frozen frame has to last at least one frame.')
    splitClips(edit, linkedClips(edit, [clipId]), begin)
    openGap(edit, track, begin, long, scope)
    const frozen: Clip = {
      ...clip,
      id: edit.newId(),
      start: begin,
      length: long,
      head: 0,
      map: { kind: 'freeze', source: sourceTimeAt(clip, begin) },
      link: null,
      sync: 0,
    }
    edit.put('clips', frozen)
    copyEffects(edit, 'clip', clip.id, frozen.id)
  },
  describe: () => 'Froze a frame',
})
