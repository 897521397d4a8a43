import { z } from 'zod'
import { clipEnd } from '../document/query'
import { clipName } from '../document/source'
import type { Clip } from '../document/clip'
import { idSchema, signedTicksSchema } from '../document/values'
import type { Edit } from '../edit/edit'
import { leadTrack, openTrack, sliceClip, quantise } from '../edit/lanes'
import { refuse } from '../edit/refuse'
import { defineCommand } from './define'
import { edgeGroup } from './trim'
import { sourceLimits, type Limits } from './trimLimits'

/** How far the cut between two touching clips can roll. */
export function rollLimits(edit: Edit, left: Clip, right: Clip): Limits {
  const [end, start] = [sourceLimits(edit, left, 'end'), sourceLimits(edit, right, 'start')]
  return { min: Math.max(end.min, start.min), max: Math.min(end.max, start.max) }
}

/** Moves the cut between two touching clips: one gets longer by what the other loses, everything else stays. */
export const roll = defineCommand({
  schema: z.object({
    type: z.literal('roll'),
    leftId: idSchema,
    rightId: idSchema,
    /** New reel position of the cut, in ticks; snapped to the grid. */
    to: signedTicksSchema,
    linked: z.boolean().default(true),
  }),
  apply(edit, { leftId, rightId, to, linked }) {
    const [left, right] = [edit.need('clips', leftId), edit.need('clips', rightId)]
    openTrack(edit, left.trackId)
    if (right.trackId !== left.trackId || clipEnd(left) !== right.start)
      refuse('touch', 'Only a cut between two clips that touch can be rolled.', [leftId, rightId])
    const limits = rollLimits(edit, left, right)
    const [lefts, rights] = [edgeGroup(edit, left, 'end', linked), edgeGroup(edit, right, 'start', linked)]
    const cut = quantise(edit, leadTrack(edit, [...lefts, ...rights]), to)
    if (cut < limits.min || cut > limits.max) {
      const short = cut > limits.max ? left : right
      refuse('limit', `${clipName(edit, short)} has nothing more at this cut.`, [short.id])
    }
    const cutOn = (clip: Clip, edge: 'start' | 'end') => {
      const own = sourceLimits(edit, clip, edge)
      return Math.min(Math.max(quantise(edit, edit.need('tracks', clip.trackId), cut), own.min), own.max)
    }
    const cuts: [string, ReturnType<typeof sliceClip>][] = [
      ...lefts.map(
        (clip) => [clip.id, sliceClip(clip, clip.start, cutOn(clip, 'end'))] as [string, ReturnType<typeof sliceClip>],
      ),
      ...rights.map(
        (clip) =>
          [clip.id, sliceClip(clip, cutOn(clip, 'start'), clipEnd(clip))] as [string, ReturnType<typeof sliceClip>],
      ),
    ]
    for (const [id, slice] of cuts) edit.patchClip(id, slice)
  },
  describe: () => 'Rolled a cut',
})
