import { z } from 'zod'
import type { Clip } from '../document/clip'
import { clipEnd } from '../document/query'
import { idSchema } from '../document/values'
import { closeRange, dropLoneLinks, linkedClips, scopeSchema, type Scope } from '../edit/lanes'
import { count, defineCommand } from './define'

/** Removes clips with what is linked to them; with `closeUp`, what comes later moves up to fill the time. */
export const remove = defineCommand({
  schema: z.object({
    type: z.literal('remove'),
    clipIds: z.array(idSchema).min(1).max(5000),
    closeUp: z.boolean(),
    scope: scopeSchema.default('unlocked'),
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
        closeAll(
          edit,
          clips.filter((clip) => clip.trackId === trackId),
          scope,
        )
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

function closeAll(edit: EditOf, clips: readonly Clip[], scope: Scope): void {
  const ranges: { from: number; to: number; trackId: string }[] = []
  for (const clip of [...clips].sort((a, b) => a.start - b.start)) {
    const last = ranges.at(-1)
    if (last && clip.start <= last.to) last.to = Math.max(last.to, clipEnd(clip))
    else ranges.push({ from: clip.start, to: clipEnd(clip), trackId: clip.trackId })
  }
  // From the end backwards, so that positions of the ranges still to come stay true.
  for (const { from, to, trackId } of ranges.reverse()) closeRange(edit, edit.need('tracks', trackId), from, to, scope)
}
