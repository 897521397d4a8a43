import { z } from 'zod'
import { clipEnd } from '../document/query'
import { idSchema, ticksSchema } from '../document/values'
import {
  closeRange,
  dropLoneLinks,
  leastRest,
  openTrack,
  scopeSchema,
  sliceClip,
  quantise,
  splitClips,
  tracksInScope,
} from '../edit/lanes'
import { refuse } from '../edit/refuse'
import { defineCommand } from './define'

/** Takes a stretch of time out of a reel: what lies in it goes, and with `closeUp` what comes later moves up. */
export const cutOut = defineCommand({
  schema: z.object({
    type: z.literal('cutOut'),
    reelId: idSchema,
    from: ticksSchema,
    to: ticksSchema,
    /** With the scope `track`, this one; otherwise it leads the grid. `null` takes the reel's back picture track. */
    trackId: idSchema.nullable().default(null),
    scope: scopeSchema.default('unlocked'),
    closeUp: z.boolean(),
  }),
  apply(edit, { reelId, from, to, trackId, scope, closeUp }) {
    edit.need('reels', reelId)
    const inReel = [...edit.all('tracks')].filter((track) => track.reelId === reelId)
    const lead = trackId ? openTrack(edit, trackId) : (inReel.find((track) => track.kind === 'picture') ?? inReel[0])
    if (!lead || lead.reelId !== reelId) return refuse('missing', 'This reel has no such track.')
    const [begin, end] = [quantise(edit, lead, from), quantise(edit, lead, to)]
    if (end <= begin) refuse('length', 'The range to cut out is empty.')
    const lanes = tracksInScope(edit, lead, scope)
    const clips = () => lanes.flatMap((lane) => [...edit.clipsOn(lane.id)])
    for (const at of [begin, end])
      splitClips(
        edit,
        clips().filter((clip) => clip.start < at && clipEnd(clip) > at),
        at,
      )
    const links: (string | null)[] = []
    for (const lane of lanes) {
      const [a, b] = [quantise(edit, lane, begin), quantise(edit, lane, end)]
      const least = leastRest(edit, lane)
      for (const clip of edit.clipsOn(lane.id)) {
        const last = clipEnd(clip)
        if (last <= a || clip.start >= b) continue
        // What was not cut, since it would have left next to nothing, goes with the most of it.
        const [before, after] = [a - clip.start, last - b].map((rest) => rest > 0 && rest >= least)
        if (before || after) edit.patchClip(clip.id, sliceClip(clip, before ? clip.start : b, after ? last : a))
        else {
          links.push(clip.link)
          edit.remove('clips', clip.id)
        }
      }
    }
    dropLoneLinks(edit, links)
    if (closeUp) closeRange(edit, lead, begin, end, scope)
  },
  describe: ({ closeUp }) => (closeUp ? 'Cut out a range and closed up' : 'Cut out a range'),
})
