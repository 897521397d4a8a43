import { z } from 'zod'
import { sourceLength } from '../document/asset'
import type { Clip } from '../document/clip'
import { clipEnd } from '../document/query'
import { idSchema, ticksSchema } from '../document/values'
import { sourceTimeAt } from '../evaluate/timeMap'
import type { Edit } from '../edit/edit'
import { linkedClips, openTrack, refuseOverlap, sliceClip, snapOn } from '../edit/lanes'
import { refuse } from '../edit/refuse'
import { defineCommand } from './define'

/** How far an edge of a clip can go in the reel: to the ends of its source and to the neighbours. Ticks, inclusive. */
export function trimLimits(edit: Edit, clip: Clip, edge: 'start' | 'end'): { min: number; max: number } {
  const track = edit.need('tracks', clip.trackId)
  const asset = edit.need('assets', clip.assetId)
  const grain = track.kind === 'picture' ? edit.need('reels', track.reelId).format.rate : null
  const one = grain ? (705_600_000 / grain.num) * grain.den : 14_700
  const open = asset.kind === 'still'
  const held = sourceLength(asset, clip.stream)
  const lane = edit.clipsOn(track.id)
  if (edge === 'start') {
    const before = lane.filter((other) => other.id !== clip.id && clipEnd(other) <= clip.start).at(-1)
    const sourceStart = open ? 0 : clip.start - sourceTimeAt(clip, clip.start)
    return { min: Math.max(0, before ? clipEnd(before) : 0, snapUp(sourceStart, one)), max: clipEnd(clip) - one }
  }
  const after = lane.find((other) => other.id !== clip.id && other.start >= clipEnd(clip))
  // The last frame of a source may be cut short by the grid; it still shows, so the edge may go to the next grid line.
  const sourceEnd = open ? Infinity : snapUp(clip.start + held - sourceTimeAt(clip, clip.start), one)
  return { min: clip.start + one, max: Math.min(after ? after.start : Infinity, Math.max(sourceEnd, clip.start + one)) }
}

function snapUp(ticks: number, grain: number): number {
  return Math.ceil(ticks / grain - 1e-6) * grain
}

/** Moves one edge of a clip, and the same edge of clips linked to it that share it, to a reel position. */
export const trim = defineCommand({
  schema: z.object({
    type: z.literal('trim'),
    clipId: idSchema,
    edge: z.enum(['start', 'end']),
    /** New reel position of the edge, in ticks; snapped to the grid. */
    to: ticksSchema,
    linked: z.boolean().default(true),
  }),
  apply(edit, { clipId, edge, to, linked }) {
    const clip = edit.need('clips', clipId)
    openTrack(edit, clip.trackId)
    const at = edge === 'start' ? clip.start : clipEnd(clip)
    const grain = 705_600_000 / 20
    const group = linkedClips(edit, [clipId], linked).filter((other) => {
      const otherEdge = edge === 'start' ? other.start : clipEnd(other)
      // A linked clip whose edge was moved on purpose (a voice that runs on) is left alone.
      return other.id === clipId || Math.abs(otherEdge - at) < grain
    })
    for (const member of group) {
      const track = edit.need('tracks', member.trackId)
      const limits = trimLimits(edit, member, edge)
      const wanted = snapOn(edit, track, to)
      if (member.id === clipId && (wanted < limits.min || wanted > limits.max))
        refuse('limit', trimRefusal(edit, member, edge, wanted, limits), [clipId])
      const edgeTo = Math.min(Math.max(wanted, limits.min), limits.max)
      edit.patchClip(
        member.id,
        edge === 'start' ? sliceClip(member, edgeTo, clipEnd(member)) : sliceClip(member, member.start, edgeTo),
      )
    }
    refuseOverlap(
      edit,
      group.map((member) => member.trackId),
    )
  },
  describe: ({ edge }) => `Trimmed a clip’s ${edge}`,
})

function trimRefusal(
  edit: Edit,
  clip: Clip,
  edge: 'start' | 'end',
  wanted: number,
  limits: { min: number; max: number },
): string {
  if (edge === 'start' ? wanted > limits.max : wanted < limits.min) return 'A clip has to be at least one frame long.'
  const neighbour = edit
    .clipsOn(clip.trackId)
    .some((other) => (edge === 'start' ? clipEnd(other) === limits.min : other.start === limits.max))
  if (neighbour) return 'Another clip is in the way.'
  return `${edit.need('assets', clip.assetId).name} has nothing more at this end.`
}
