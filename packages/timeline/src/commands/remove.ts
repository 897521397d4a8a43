import { z } from 'zod'
import type { Clip } from '../document/clip'
import { clipEnd } from '../document/query'
import { idSchema, ticksSchema } from '../document/values'
import { closeRange, dropLoneLinks, linkedClips, openTrack } from '../edit/lanes'
import { refuse } from '../edit/refuse'
import { count, defineCommand } from './define'

const scopeSchema = z.enum(['track', 'all'])

/** Removes clips with what is linked to them; with `closeUp`, what comes later moves up to fill the time. */
export const remove = defineCommand({
  schema: z.object({
    type: z.literal('remove'),
    clipIds: z.array(idSchema).min(1).max(5000),
    closeUp: z.boolean(),
    scope: scopeSchema.default('all'),
    linked: z.boolean().default(true),
  }),
  apply(edit, { clipIds, closeUp, scope, linked }) {
    const clips = linkedClips(edit, clipIds, linked)
    for (const clip of clips) edit.remove('clips', clip.id)
    dropLoneLinks(
      edit,
      clips.map((clip) => clip.link),
    )
    if (!closeUp) return
    if (scope === 'track') {
      for (const trackId of new Set(clips.map((clip) => clip.trackId)))
        closeAll(edit, clips.filter((clip) => clip.trackId === trackId), scope) // prettier-ignore
    } else closeAll(edit, leaders(edit, clips), scope)
  },
  describe: ({ clipIds, closeUp }) => `Removed ${count(clipIds.length, 'clip')}${closeUp ? ' and closed up' : ''}`,
})

type EditOf = Parameters<typeof closeRange>[0]

/** One clip of each stretch of time: a pair takes its time out once, led by the picture. */
function leaders(edit: EditOf, clips: readonly Clip[]): Clip[] {
  const pictures = clips.filter((clip) => edit.need('tracks', clip.trackId).kind === 'picture')
  const rest = clips.filter(
    (clip) =>
      !pictures.includes(clip) && !pictures.some((other) => other.start < clipEnd(clip) && clipEnd(other) > clip.start),
  )
  return [...pictures, ...rest]
}

function closeAll(edit: EditOf, clips: readonly Clip[], scope: 'track' | 'all'): void {
  const ranges: { from: number; to: number; trackId: string }[] = []
  for (const clip of [...clips].sort((a, b) => a.start - b.start)) {
    const last = ranges.at(-1)
    if (last && clip.start <= last.to) last.to = Math.max(last.to, clipEnd(clip))
    else ranges.push({ from: clip.start, to: clipEnd(clip), trackId: clip.trackId })
  }
  // From the end backwards, so that positions of the ranges still to come stay true.
  for (const { from, to, trackId } of ranges.reverse()) closeRange(edit, edit.need('tracks', trackId), from, to, scope)
}

/** Closes the empty stretch around a position on a track. */
export const closeGap = defineCommand({
  schema: z.object({
    type: z.literal('closeGap'),
    trackId: idSchema,
    at: ticksSchema,
    scope: scopeSchema.default('all'),
  }),
  apply(edit, { trackId, at, scope }) {
    const track = openTrack(edit, trackId)
    const clips = edit.clipsOn(trackId)
    if (clips.some((clip) => clip.start <= at && clipEnd(clip) > at))
      refuse('nothing', 'There is a clip here, not a gap.')
    const after = clips.find((clip) => clip.start > at)
    if (!after) refuse('nothing', 'No clip comes after this gap.')
    const from = clips.filter((clip) => clipEnd(clip) <= at).reduce((end, clip) => Math.max(end, clipEnd(clip)), 0)
    closeRange(edit, track, from, after.start, scope)
  },
  describe: () => 'Closed up a gap',
})
