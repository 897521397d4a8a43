import { z } from 'zod'
import type { Clip } from '../document/clip'
import { clipEnd } from '../document/query'
import { clipName } from '../document/source'
import { idSchema, signedTicksSchema, ticksSchema } from '../document/values'
import type { Edit } from '../edit/edit'
import { closeRange, leadTrack, linkedClips, openGap, openTrack, scopeSchema, sliceClip, quantise } from '../edit/lanes'
import { refuse } from '../edit/refuse'
import { TICKS_PER_SECOND, ticksPerFrame } from '../time/ticks'
import { count, defineCommand } from './define'
import { sourceLimits, trimLimits, type Limits } from './trimLimits'

/** Edges of linked clips this near to each other are one edge: frame and sample grids differ. */
export const SAME_EDGE = TICKS_PER_SECOND / 20

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
    const wanted = quantise(edit, leadTrack(edit, group), to)
    const limits = trimLimits(edit, clip, edge, mode)
    if (wanted < limits.min || wanted > limits.max)
      refuse('limit', trimRefusal(edit, clip, edge, wanted, limits), [clipId])
    if (mode === 'ripple') return ripple(edit, leading(edit, clip, group, edge), group, edge, wanted, scope)
    for (const member of group) {
      const own = trimLimits(edit, member, edge)
      const at = Math.min(Math.max(quantise(edit, edit.need('tracks', member.trackId), wanted), own.min), own.max)
      edit.patchClip(
        member.id,
        edge === 'start' ? sliceClip(member, at, clipEnd(member)) : sliceClip(member, member.start, at),
      )
    }
  },
  describe: ({ edge, mode }) => `${mode === 'ripple' ? 'Ripple-trimmed' : 'Trimmed'} a clip’s ${edge}`,
})

/** Gives several clips one length by their ends: each with what is linked to it, the last one first. */
export const setLengths = defineCommand({
  schema: z.object({
    type: z.literal('setLengths'),
    clipIds: z.array(idSchema).min(1).max(2000),
    length: ticksSchema.min(1),
    mode: z.enum(['plain', 'ripple']).default('plain'),
    scope: scopeSchema.default('unlocked'),
    linked: z.boolean().default(true),
  }),
  apply(edit, { clipIds, length, mode, scope, linked }) {
    const named = clipIds.map((id) => edit.need('clips', id))
    const rank = (clip: Clip) => (edit.need('tracks', clip.trackId).kind === 'picture' ? 0 : 1)
    const sorted = [...named].sort((a, b) => b.start - a.start || rank(a) - rank(b))
    const done = new Set<string>()
    for (const { id, link } of sorted) {
      if (linked && link && done.has(link)) continue
      if (link) done.add(link)
      const { start } = edit.need('clips', id)
      trim.apply(edit, { type: 'trim', clipId: id, edge: 'end', to: start + length, mode, scope, linked })
    }
  },
  describe: ({ clipIds }) => `Gave ${count(clipIds.length, 'clip')} one length`,
})

type ScopeOf = z.infer<typeof scopeSchema>

/**
 * Linked clips whose own cut lies elsewhere by a split edit: they touch the next clip on that side, so their edge goes
 * along by the same amount and the split edit stays what it was.
 */
function splitPartners(edit: Edit, clip: Clip, group: readonly Clip[], edge: 'start' | 'end'): Clip[] {
  if (!clip.link) return []
  return edit.linkedTo(clip.link).filter((other) => {
    if (group.some((member) => member.id === other.id) || edit.need('tracks', other.trackId).locked) return false
    return neighbourOf(edit, other, edge) !== null
  })
}

/** The clip that touches another's edge on its track. */
function neighbourOf(edit: Edit, clip: Clip, edge: 'start' | 'end'): Clip | null {
  const lane = edit.clipsOn(clip.trackId)
  return (
    lane.find((other) => (edge === 'start' ? clipEnd(other) === clip.start : other.start === clipEnd(clip))) ?? null
  )
}

const edgeOf = (clip: Clip, edge: 'start' | 'end') => (edge === 'start' ? clip.start : clipEnd(clip))

/** Whether two edges lie less than a frame apart, as those of a pair do whose sound holds no whole frames. */
function sameFrame(edit: Edit, a: Clip, b: Clip, edge: 'start' | 'end'): boolean {
  const { reelId } = edit.need('tracks', a.trackId)
  const frame = ticksPerFrame(edit.need('reels', reelId).format.rate)
  return Math.abs(edgeOf(a, edge) - edgeOf(b, edge)) < frame - 14_700
}

/** The clip of a group that says how far a ripple goes: the picture that has the edge in question, if there is one. */
function leading(edit: Edit, clip: Clip, group: readonly Clip[], edge: 'start' | 'end'): Clip {
  const isPicture = (member: Clip) => edit.need('tracks', member.trackId).kind === 'picture'
  return group.find((member) => isPicture(member) && sameFrame(edit, clip, member, edge)) ?? clip
}

function ripple(edit: Edit, clip: Clip, group: Clip[], edge: 'start' | 'end', to: number, scope: ScopeOf): void {
  const from = edge === 'start' ? clip.start : clipEnd(clip)
  /** Longer is positive, on both sides. */
  const longer = edge === 'start' ? from - to : to - from
  const leads = scope === 'track' ? group : [clip]
  const partners = scope === 'track' ? [] : splitPartners(edit, clip, group, edge)
  const track = (member: Clip) => edit.need('tracks', member.trackId)
  // What lies behind a partner's cut may begin before the place in question; it moves with what it belongs to.
  const follower = (member: Clip) => (edge === 'end' ? neighbourOf(edit, member, 'end')! : member).id
  const whole = new Set(partners.map(follower))
  if (longer > 0)
    for (const lead of leads)
      openGap(edit, track(lead), edge === 'start' ? lead.start : clipEnd(lead), longer, scope, whole)
  const shared = new Set(group)
  for (const member of [...group, ...partners]) {
    const own = sourceLimits(edit, member, edge)
    // What shares the edge meets the clip there, whatever hair lay between them; a track by itself keeps its own time.
    const meets = scope !== 'track' && shared.has(member) && sameFrame(edit, clip, member, edge)
    const hair = meets ? edgeOf(clip, edge) - edgeOf(member, edge) : 0
    const grow = quantise(edit, track(member), longer + (edge === 'start' ? -hair : hair))
    if (edge === 'end') {
      // What follows may begin a hair before its picture does.
      const behind = (other: Clip) => other.id !== member.id && other.start >= clipEnd(member)
      const next = edit.clipsOn(member.trackId).find(behind)
      const room = longer > 0 ? (next?.start ?? Infinity) : Infinity
      const end = Math.min(Math.max(clipEnd(member) + grow, own.min), own.max, room)
      edit.patchClip(member.id, sliceClip(member, member.start, end))
    } else {
      // A longer head stays where the clip began; everything from there on was pushed.
      const pushed = quantise(edit, track(member), longer)
      const last = edit
        .clipsOn(member.trackId)
        .filter((other) => other.start < member.start)
        .at(-1)
      // What comes before may end a hair after its picture does.
      const room = longer > 0 && last && last.id !== member.id ? clipEnd(last) - pushed : -Infinity
      const start = Math.min(Math.max(member.start - grow, own.min, room), own.max)
      const kept = sliceClip(member, start, clipEnd(member))
      edit.patchClip(member.id, longer > 0 ? { ...kept, start: start + pushed } : kept)
    }
  }
  if (longer < 0)
    for (const lead of leads) {
      const at = edge === 'start' ? lead.start : clipEnd(lead)
      const cut = quantise(edit, track(lead), longer)
      closeRange(edit, track(lead), edge === 'start' ? at : at + cut, edge === 'start' ? at - cut : at, scope, whole)
    }
}

export function trimRefusal(edit: Edit, clip: Clip, edge: 'start' | 'end', wanted: number, limits: Limits): string {
  if (edge === 'start' ? wanted > limits.max : wanted < limits.min) return 'A clip has to be at least one frame long.'
  const neighbour = edit
    .clipsOn(clip.trackId)
    .some((other) => (edge === 'start' ? clipEnd(other) === limits.min : other.start === limits.max))
  if (neighbour) return 'Another clip is in the way: roll the cut between them to take from it.'
  return `${clipName(edit, clip)} has nothing more at this end.`
}
