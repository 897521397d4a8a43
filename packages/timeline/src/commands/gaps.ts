import { z } from 'zod'
import { clipEnd } from '../document/query'
import { idSchema, ticksSchema } from '../document/values'
import { closeRange, grainOf, openTrack, scopeSchema } from '../edit/lanes'
import { refuse } from '../edit/refuse'
import type { Edit } from '../edit/edit'
import type { Track } from '../document/track'
import { defineCommand } from './define'

/** Closes the empty stretch around a position on a track. */
export const closeGap = defineCommand({
  schema: z.object({
    type: z.literal('closeGap'),
    trackId: idSchema,
    at: ticksSchema,
    scope: scopeSchema.default('unlocked'),
  }),
  apply(edit, { trackId, at, scope }) {
    const track = openTrack(edit, trackId)
    const clips = edit.clipsOn(trackId)
    if (clips.some((clip) => clip.start <= at && clipEnd(clip) > at))
      refuse('nothing', 'There is a clip here, not a gap.')
    const after = clips.find((clip) => clip.start > at)
    if (!after) return refuse('nothing', 'No clip comes after this gap.')
    const from = clips.filter((clip) => clipEnd(clip) <= at).reduce((end, clip) => Math.max(end, clipEnd(clip)), 0)
    closeRange(edit, track, from, after.start, scope)
  },
  describe: () => 'Closed up a gap',
})

/** Empty stretches of time, first to last, each with the track that leads closing it. */
interface Gap {
  track: Track
  from: number
  to: number
}

/** Where no track in question has a clip; the time after the last clip is not a gap. */
function commonGaps(edit: Edit, tracks: readonly Track[]): Gap[] {
  const clips = tracks.flatMap((track) => [...edit.clipsOn(track.id)]).sort((a, b) => a.start - b.start)
  const lead = tracks.find((track) => track.kind === 'picture') ?? tracks[0]!
  const gaps: Gap[] = []
  let reach = 0
  for (const clip of clips) {
    if (clip.start - reach >= grainOf(edit, lead)) gaps.push({ track: lead, from: reach, to: clip.start })
    reach = Math.max(reach, clipEnd(clip))
  }
  return gaps
}

/**
 * Closes every gap: on one track alone, or, with the other scopes, wherever no track in scope has anything, so that
 * nothing slips.
 */
export const closeGaps = defineCommand({
  schema: z.object({
    type: z.literal('closeGaps'),
    trackId: idSchema,
    scope: scopeSchema.default('unlocked'),
  }),
  apply(edit, { trackId, scope }) {
    const track = openTrack(edit, trackId)
    const tracks = [...edit.all('tracks')].filter(
      (other) =>
        other.id === trackId ||
        (scope !== 'track' && other.reelId === track.reelId && (scope === 'all' || !other.locked)),
    )
    const gaps = commonGaps(edit, tracks)
    if (gaps.length === 0) refuse('nothing', 'There is no gap to close up.')
    for (const gap of gaps.reverse()) closeRange(edit, gap.track, gap.from, gap.to, scope)
  },
  describe: () => 'Closed up every gap',
})
