import { z } from 'zod'
import type { Clip } from '../document/clip'
import { clipEnd } from '../document/query'
import { clipName } from '../document/source'
import { idSchema, signedTicksSchema } from '../document/values'
import type { Edit } from '../edit/edit'
import { grainOf, linkedClips, openTrack, sliceClip, quantise } from '../edit/lanes'
import { refuse } from '../edit/refuse'
import { defineCommand } from './define'
import { sourceLimits, type Limits } from './trimLimits'

/** Neighbours of a clip on its track, `null` where there is none; `touches` when no time lies between. */
function neighbours(edit: Edit, clip: Clip) {
  const lane = edit.clipsOn(clip.trackId)
  const place = lane.findIndex((other) => other.id === clip.id)
  const [left, right] = [lane[place - 1] ?? null, lane[place + 1] ?? null]
  return {
    left,
    right,
    touchesLeft: left !== null && clipEnd(left) === clip.start,
    touchesRight: right !== null && right.start === clipEnd(clip),
  }
}

/** How far a clip can slide, in ticks: touching neighbours give and take, others are in the way. */
export function slideLimits(edit: Edit, clip: Clip): Limits {
  const { left, right, touchesLeft, touchesRight } = neighbours(edit, clip)
  let [min, max] = [-clip.start, Infinity]
  if (left) {
    const limits = touchesLeft ? sourceLimits(edit, left, 'end') : { min: clipEnd(left), max: Infinity }
    min = Math.max(min, limits.min - clip.start)
    max = Math.min(max, limits.max - clip.start)
  }
  if (right) {
    const limits = touchesRight ? sourceLimits(edit, right, 'start') : { min: -Infinity, max: right.start }
    min = Math.max(min, limits.min - clipEnd(clip))
    max = Math.min(max, limits.max - clipEnd(clip))
  }
  return { min, max }
}

/** Moves a clip while its touching neighbours give and take: what is left gets longer as what is right gets shorter. */
export const slide = defineCommand({
  schema: z.object({
    type: z.literal('slide'),
    clipId: idSchema,
    by: signedTicksSchema,
    linked: z.boolean().default(true),
  }),
  apply(edit, { clipId, by, linked }) {
    const lead = edit.need('clips', clipId)
    const clips = linkedClips(edit, [clipId], linked)
    const tracks = clips.map((clip) => openTrack(edit, clip.trackId))
    const grid = tracks.find((track) => track.kind === 'picture') ?? tracks[0]!
    const wanted = quantise(edit, grid, by)
    const limits = slideLimits(edit, lead)
    if (wanted < limits.min || wanted > limits.max)
      refuse('limit', `${clipName(edit, lead)} can’t slide that far: its neighbours have no more to give.`, [clipId])
    for (const clip of clips) {
      const own = slideLimits(edit, clip)
      const track = edit.need('tracks', clip.trackId)
      const shift = quantise(edit, track, wanted)
      if (shift < own.min - grainOf(edit, track) || shift > own.max + grainOf(edit, track))
        refuse('limit', `The linked clip on ${track.name} can’t slide that far. Unlink it, or slide less.`, [clip.id])
      const bounded = Math.min(Math.max(shift, own.min), own.max)
      const { left, right, touchesLeft, touchesRight } = neighbours(edit, clip)
      if (left && touchesLeft) edit.patchClip(left.id, sliceClip(left, left.start, clip.start + bounded))
      if (right && touchesRight) edit.patchClip(right.id, sliceClip(right, clipEnd(clip) + bounded, clipEnd(right)))
      edit.patchClip(clip.id, { start: clip.start + bounded })
    }
  },
  describe: () => 'Slid a clip',
})
