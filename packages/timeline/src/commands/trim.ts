import { z } from 'zod'
import type { Clip } from '../document/clip'
import { clipEnd } from '../document/query'
import { clipName } from '../document/source'
import { idSchema, signedTicksSchema } from '../document/values'
import type { Edit } from '../edit/edit'
import {
  closeRange,
  leadTrack,
  linkedClips,
  openGap,
  openTrack,
  refuseOverlap,
  scopeSchema,
  sliceClip,
  snapOn,
} from '../edit/lanes'
import { refuse } from '../edit/refuse'
import { defineCommand } from './define'
import { sourceLimits, trimLimits, type Limits } from './trimLimits'

/** Edges of linked clips this near to each other are one edge: frame and sample grids differ. */
export const SAME_EDGE = 705_600_000 / 20

/** The clip and those of its link whose edge lies at the same place. A voice that runs on by purpose is left alone. */
export function edgeGroup(edit: Edit, clip: Clip, edge: 'start' | 'end', linked: boolean): Clip[] {
  const at = edge === 'start' ? clip.start : clipEnd(clip)
  return linkedClips(edit, [clip.id], linked).filter(
    (other) => other.id === clip.id || Math.abs((edge === 'start' ? other.start : clipEnd(other)) - at) < SAME_EDGE,
  )
}

/**
 * Moves one edge of a clip, and the same edge of clips linked to it that share it, to a reel position. Plain, it opens
 * or covers empty time; with `ripple`, what comes later moves along and the clip's start stays where it is.
 */
export const trim = defineCommand({
  schema: z.object({
    type: z.literal('trim'),
    clipId: idSchema,
    edge: z.enum(['start', 'end']),
    /** New reel position of the edge, in ticks; snapped to the grid. */
    to: signedTicksSchema,
    mode: z.enum(['plain', 'ripple']).default('plain'),
    /** Tracks that move along with a ripple. */
    scope: scopeSchema.default('unlocked'),
    linked: z.boolean().default(true),
  }),
  apply(edit, { clipId, edge, to, mode, scope, linked }) {
    const clip = edit.need('clips', clipId)
    openTrack(edit, clip.trackId)
    const group = edgeGroup(edit, clip, edge, linked)
    // Sound that ends with its picture ends on the frame.
    const wanted = snapOn(edit, leadTrack(edit, group), to)
    const limits = trimLimits(edit, clip, edge, mode)
    if (wanted < limits.min || wanted > limits.max)
      refuse('limit', trimRefusal(edit, clip, edge, wanted, limits), [clipId])
    if (mode === 'ripple') return ripple(edit, clip, group, edge, wanted, scope)
    for (const member of group) {
      const own = trimLimits(edit, member, edge)
      const at = Math.min(Math.max(snapOn(edit, edit.need('tracks', member.trackId), wanted), own.min), own.max)
      edit.patchClip(
        member.id,
        edge === 'start' ? sliceClip(member, at, clipEnd(member)) : sliceClip(member, member.start, at),
      )
    }
    refuseOverlap(
      edit,
      group.map((member) => member.trackId),
    )
  },
  describe: ({ edge, mode }) => `${mode === 'ripple' ? 'Ripple-trimmed' : 'Trimmed'} a clip’s ${edge}`,
})

type ScopeOf = z.infer<typeof scopeSchema>

function ripple(edit: Edit, clip: Clip, group: Clip[], edge: 'start' | 'end', to: number, scope: ScopeOf): void {
  const from = edge === 'start' ? clip.start : clipEnd(clip)
  /** Longer is positive, on both sides. */
  const longer = edge === 'start' ? from - to : to - from
  const leads = scope === 'track' ? group : [clip]
  const track = (member: Clip) => edit.need('tracks', member.trackId)
  if (longer > 0)
    for (const lead of leads) openGap(edit, track(lead), edge === 'start' ? lead.start : clipEnd(lead), longer, scope)
  for (const member of group) {
    const own = sourceLimits(edit, member, edge)
    const grow = snapOn(edit, track(member), longer)
    if (edge === 'end') {
      const end = Math.min(Math.max(clipEnd(member) + grow, own.min), own.max)
      edit.patchClip(member.id, sliceClip(member, member.start, end))
    } else {
      const start = Math.min(Math.max(member.start - grow, own.min), own.max)
      const kept = sliceClip(member, start, clipEnd(member))
      // A longer head stays where the clip began; everything from there on was pushed.
      edit.patchClip(member.id, longer > 0 ? { ...kept, start: member.start } : kept)
    }
  }
  if (longer < 0)
    for (const lead of leads) {
      const at = edge === 'start' ? lead.start : clipEnd(lead)
      const cut = snapOn(edit, track(lead), longer)
      closeRange(edit, track(lead), edge === 'start' ? at : at + cut, edge === 'start' ? at - cut : at, scope)
    }
  refuseOverlap(
    edit,
    group.map((member) => member.trackId),
  )
}

function trimRefusal(edit: Edit, clip: Clip, edge: 'start' | 'end', wanted: number, limits: Limits): string {
  if (edge === 'start' ? wanted > limits.max : wanted < limits.min) return 'A clip has to be at least one frame long.'
  const neighbour = edit
    .clipsOn(clip.trackId)
    .some((other) => (edge === 'start' ? clipEnd(other) === limits.min : other.start === limits.max))
  if (neighbour) return 'Another clip is in the way.'
  return `${clipName(edit, clip)} has nothing more at this end.`
}
