import { z } from 'zod'
import type { Clip } from '../document/clip'
import { clipEnd } from '../document/query'
import { idSchema } from '../document/values'
import type { Edit } from '../edit/edit'
import { closeRange, dropLoneLinks, linkedClips, scopeSchema, sliceClip, type Scope } from '../edit/lanes'
import { count, defineCommand } from './define'
import { sourceLimits } from './trimLimits'

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
    const seams = closeUp && scope !== 'track' ? seamsOf(edit, clips) : []
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
    for (const seam of seams) closeSeam(edit, seam)
  },
  describe: ({ clipIds, closeUp }) => `Removed ${count(clipIds.length, 'clip')}${closeUp ? ' and closed up' : ''}`,
})

/** Two sounds between which nothing but removed ones lay, without a hole. */
interface Seam {
  /** `null` where nothing stays before them. */
  left: string | null
  right: string
}

/** Where removed sounds touch what stays on both sides. */
function seamsOf(edit: Edit, removed: readonly Clip[]): Seam[] {
  const gone = new Set(removed.map((clip) => clip.id))
  const seams: Seam[] = []
  for (const trackId of new Set(removed.map((clip) => clip.trackId))) {
    if (edit.need('tracks', trackId).kind !== 'sound') continue
    let left: Clip | null = null
    let last: Clip | null = null
    for (const clip of edit.clipsOn(trackId)) {
      const touches = last !== null && clipEnd(last) === clip.start
      if (!gone.has(clip.id)) {
        if (last && touches && gone.has(last.id)) seams.push({ left: left?.id ?? null, right: clip.id })
        left = clip
      } else if (!touches) left = null
      last = clip
    }
  }
  return seams
}

/**
 * A removed sound had run on under a neighbour's picture, or begun under it, by a split edit: the neighbour's own sound
 * is heard there again, so that no silence is left where nobody asked for it.
 */
function closeSeam(edit: Edit, { left, right }: Seam): void {
  const pictureOf = (clip: Clip) =>
    clip.link ? edit.linkedTo(clip.link).find((other) => edit.need('tracks', other.trackId).kind === 'picture') : null
  const [before, after] = [left ? edit.get('clips', left) : null, edit.get('clips', right)]
  if (!after || (before && (before.trackId !== after.trackId || clipEnd(before) >= after.start))) return
  const [own, next] = [before && pictureOf(before), pictureOf(after)]
  if (before && own) {
    const { max } = sourceLimits(edit, before, 'end')
    const end = Math.min(max, after.start, Math.max(clipEnd(before), clipEnd(own)))
    edit.patchClip(before.id, sliceClip(before, before.start, end))
  }
  if (next) {
    const { min } = sourceLimits(edit, after, 'start')
    const free = before ? clipEnd(edit.need('clips', before.id)) : 0
    const start = Math.max(min, free, Math.min(after.start, next.start))
    edit.patchClip(right, sliceClip(after, start, clipEnd(after)))
  }
}

/** One clip of each stretch of time: a pair takes its time out once, led by the picture. */
function leaders(edit: Edit, clips: readonly Clip[]): Clip[] {
  const pictures = clips.filter((clip) => edit.need('tracks', clip.trackId).kind === 'picture')
  const rest = clips.filter(
    (clip) =>
      !pictures.includes(clip) && !pictures.some((other) => other.start < clipEnd(clip) && clipEnd(other) > clip.start),
  )
  return [...pictures, ...rest]
}

function closeAll(edit: Edit, clips: readonly Clip[], scope: Scope): void {
  const ranges: { from: number; to: number; trackId: string }[] = []
  for (const clip of [...clips].sort((a, b) => a.start - b.start)) {
    const last = ranges.at(-1)
    if (last && clip.start <= last.to) last.to = Math.max(last.to, clipEnd(clip))
    else ranges.push({ from: clip.start, to: clipEnd(clip), trackId: clip.trackId })
  }
  // From the end backwards, so that positions of the ranges still to come stay true.
  for (const { from, to, trackId } of ranges.reverse()) closeRange(edit, edit.need('tracks', trackId), from, to, scope)
}
