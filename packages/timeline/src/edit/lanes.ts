import type { Clip, ClipBase } from '../document/clip'
import { clipEnd } from '../document/query'
import type { Track } from '../document/track'
import { snapToFrame, snapToSample, ticksPerFrame } from '../time/ticks'
import { copyEffects, shiftMarkers } from './carry'
import type { Edit } from './edit'
import { refuse } from './refuse'
import { z } from 'zod'

/**
 * Which tracks a close-up or a push moves: the track itself, those of the reel that are not locked, or all of them.
 * Moving locked tracks in time is the point of the last: what they hold stays in step with the rest.
 */
export const scopeSchema = z.enum(['track', 'unlocked', 'all'])
export type Scope = z.infer<typeof scopeSchema>

/** `ticks` on the grid of a track: frames for pictures, samples for sound. */
export function quantise(edit: Edit, track: Track, ticks: number): number {
  return track.kind === 'picture'
    ? snapToFrame(ticks, edit.need('reels', track.reelId).format.rate)
    : snapToSample(ticks)
}

/** Length of the grid of a track, in ticks: one frame or one sample. */
export function grainOf(edit: Edit, track: Track): number {
  return track.kind === 'picture' ? ticksPerFrame(edit.need('reels', track.reelId).format.rate) : 14_700
}

/** The track, or a refusal when it is locked. */
export function openTrack(edit: Edit, trackId: string): Track {
  const track = edit.need('tracks', trackId)
  if (track.locked) refuse('locked', `${track.name} is locked. Unlock it to change it.`, [trackId])
  return track
}

/** Clips of `ids` and those linked to them, each on an unlocked track. */
export function linkedClips(edit: Edit, ids: readonly string[], linked = true): Clip[] {
  const found = new Map<string, Clip>()
  const links = new Set<string>()
  for (const id of ids) {
    const clip = edit.need('clips', id)
    found.set(id, clip)
    if (clip.link) links.add(clip.link)
  }
  if (linked && links.size > 0)
    for (const clip of edit.all('clips')) if (clip.link && links.has(clip.link)) found.set(clip.id, clip)
  for (const clip of found.values()) openTrack(edit, clip.trackId)
  return [...found.values()]
}

/** Tracks of a reel in scope of a change that begins on `track`. @throws CommandRefused when all are locked */
export function tracksInScope(edit: Edit, track: Track, scope: Scope): Track[] {
  if (scope === 'track') return [track]
  const tracks = [...edit.all('tracks')].filter(
    (other) => other.reelId === track.reelId && (scope === 'all' || !other.locked),
  )
  if (tracks.length === 0) refuse('locked', 'Every track of this reel is locked. Unlock one to change it.')
  return tracks
}

/**
 * The least of a clip that cutting leaves on a track, in ticks: half a frame of sound. Sounds lie on samples and begin
 * and end a little beside their pictures; a cut there leaves no sliver that nobody sees or hears. Pictures lie on the
 * frame.
 */
export function leastRest(edit: Edit, track: Track): number {
  return track.kind === 'picture' ? 0 : ticksPerFrame(edit.need('reels', track.reelId).format.rate) / 2
}

/** The part of a clip between two reel positions, which lie inside it and on its grid. Keyframes and map stay put. */
export function sliceClip(clip: Clip, from: number, to: number): Pick<ClipBase, 'start' | 'length' | 'head'> {
  return { start: from, length: to - from, head: clip.head + from - clip.start }
}

/** The track whose grid others follow: a picture's if there is one, so that sound stays where its picture is. */
export function leadTrack(edit: Edit, clips: readonly Clip[]): Track {
  const tracks = clips.map((clip) => edit.need('tracks', clip.trackId))
  return tracks.find((track) => track.kind === 'picture') ?? tracks[0]!
}

/** How far tracks in scope move for a length, alike for all: whole frames with a picture among them, else samples. */
function commonShift(edit: Edit, tracks: readonly Track[], length: number, round: (n: number) => number) {
  const lead = tracks.find((track) => track.kind === 'picture') ?? tracks[0]!
  const grain = grainOf(edit, lead)
  // A sound that begins less than half a frame early belongs to the picture that begins there.
  return { by: Math.round(round(length / grain) * grain), hair: lead.kind === 'picture' ? grain / 2 : 0 }
}

/** Rounds down or up, forgiving the hair that a division leaves. */
const down = (n: number) => Math.floor(n + 1e-6)
const up = (n: number) => Math.ceil(n - 1e-6)

/** Links of which a clip on these lanes begins at or after `at`, with the start of the first picture among those. */
function laterLinks(edit: Edit, lanes: readonly Track[], at: number): Map<string, number> {
  const later = new Map<string, number>()
  for (const lane of lanes)
    for (const clip of edit.clipsOn(lane.id)) {
      if (!clip.link || clip.start < at) continue
      const known = later.get(clip.link) ?? Infinity
      later.set(clip.link, Math.min(known, lane.kind === 'picture' ? clip.start : Infinity))
    }
  return later
}

/**
 * Cuts clips that reach across `at` while what they are linked to begins after it, such as a voice that starts before
 * its picture: the part from `at` on stays with its partner, the part before is by itself.
 * @param whole ids of clips that are left as they are
 * @returns ids of the parts before
 */
function cutFromPartners(
  edit: Edit,
  lanes: readonly Track[],
  at: number,
  hair: number,
  whole: ReadonlySet<string>,
): string[] {
  const later = laterLinks(edit, lanes, at - hair)
  const across = lanes.flatMap((lane) =>
    edit.clipsOn(lane.id).filter((clip) => {
      if (!clip.link || whole.has(clip.id) || !later.has(clip.link)) return false
      return clip.start < at - hair && clipEnd(clip) > at
    }),
  )
  // All at once: the parts from `at` on get one link with their picture, which lies behind it.
  const before = [...splitClips(edit, across, at).keys()]
  for (const id of before) edit.patchClip(id, { link: null, sync: 0 })
  return before
}

/**
 * Unties sounds from a picture of the same source that they no longer go along with: one moves, and the other, lying
 * wholly on the other side by a split edit, stays. They would be out of sync for ever, and nobody's fault.
 */
function untieDivided(edit: Edit, lanes: readonly Track[], moves: (clip: Clip) => boolean): void {
  const [STAYS, GOES] = [1, 2]
  const sides = new Map<string, number>()
  for (const lane of lanes)
    for (const clip of edit.clipsOn(lane.id))
      if (clip.link) sides.set(clip.link, (sides.get(clip.link) ?? 0) | (moves(clip) ? GOES : STAYS))
  const kinds = new Map(lanes.map(({ id, kind }) => [id, kind]))
  const divided = [...sides.keys()].filter((link) => sides.get(link) === (STAYS | GOES))
  for (const link of divided) {
    const members = edit.linkedTo(link).filter((clip) => kinds.has(clip.trackId))
    const picture = members.find((clip) => kinds.get(clip.trackId) === 'picture')
    if (picture?.kind !== 'media') continue
    for (const clip of members)
      if (clip.kind === 'media' && clip.assetId === picture.assetId && clip.sync === picture.sync)
        if (moves(clip) !== moves(picture)) edit.patchClip(clip.id, { link: null, sync: 0 })
  }
  dropLoneLinks(edit, divided)
}

/** Where on each lane begins what moves with `track` from `at` on: a hair sooner on the others. */
function laneStarts(edit: Edit, lanes: readonly Track[], track: Track, at: number, hair: number): Map<string, number> {
  return new Map(lanes.map((lane) => [lane.id, quantise(edit, lane, at) - (lane.id === track.id ? 0 : hair)]))
}

const NONE: ReadonlySet<string> = new Set()

/**
 * Makes room: everything from `at` on moves later by `length` on the tracks in scope. Clips of `track` that reach
 * across `at` are cut there together with what is linked to them. On other tracks such clips stay as they are, unless
 * their picture moves: then they are cut, so that what belongs together stays together.
 * @param whole ids of clips that move as a whole though they begin before `at`
 */
export function openGap(
  edit: Edit,
  track: Track,
  at: number,
  length: number,
  scope: Scope,
  whole: ReadonlySet<string> = NONE,
): void {
  const across = edit.clipsOn(track.id).filter((clip) => clip.start < at && clipEnd(clip) > at && !whole.has(clip.id))
  if (across.length > 0) {
    const group = linkedClips(
      edit,
      across.map((clip) => clip.id),
    )
    splitClips(edit, group, at)
  }
  const lanes = tracksInScope(edit, track, scope)
  const { by, hair } = commonShift(edit, lanes, length, up)
  if (scope !== 'track') cutFromPartners(edit, lanes, at, hair, whole)
  const begins = laneStarts(edit, lanes, track, at, hair)
  const moves = (clip: Clip) => clip.start >= begins.get(clip.trackId)! || whole.has(clip.id)
  if (scope !== 'track') untieDivided(edit, lanes, moves)
  for (const lane of lanes) edit.shiftClips(lane.id, moves, quantise(edit, lane, by))
  if (scope !== 'track') shiftMarkers(edit, track.reelId, at, at, by)
}

/**
 * Takes a stretch of time out of the tracks in scope: what begins at or after its end moves earlier. A split edit is
 * taken along as one thing: a sound that begins before its picture moves with it, and a linked sound that runs on past
 * its picture into what moves up is shortened to where that begins now. What of a sound would lie before the reel's
 * start is cut off. Other clips that reach across the stretch and are linked to something that moves lose what they had
 * in it.
 * @param whole ids of clips that move as a whole though they begin before `to`
 * @throws CommandRefused when a clip in the way would be overlapped, naming its track
 */
export function closeRange(
  edit: Edit,
  track: Track,
  from: number,
  to: number,
  scope: Scope,
  whole: ReadonlySet<string> = NONE,
): void {
  const lanes = tracksInScope(edit, track, scope)
  const { by, hair } = commonShift(edit, lanes, to - from, down)
  if (by <= 0) return
  const early = scope === 'track' ? NONE : new Set([...whole, ...earlySounds(edit, lanes, from, to, hair)])
  if (scope !== 'track')
    for (const id of cutFromPartners(edit, lanes, to, hair, early)) {
      const part = edit.need('clips', id)
      const end = quantise(edit, edit.need('tracks', part.trackId), from)
      if (part.start >= end) edit.remove('clips', id)
      else if (clipEnd(part) > end) edit.patchClip(id, sliceClip(part, part.start, end))
    }
  const begins = laneStarts(edit, lanes, track, to, hair)
  const moves = (clip: Clip) => clip.start >= begins.get(clip.trackId)! || early.has(clip.id)
  if (scope !== 'track') untieDivided(edit, lanes, moves)
  for (const lane of lanes) {
    const shift = quantise(edit, lane, by)
    for (const clip of edit.clipsOn(lane.id)) {
      if (!moves(clip) || clip.start >= shift) continue
      if (clipEnd(clip) > shift) edit.patchClip(clip.id, sliceClip(clip, shift, clipEnd(clip)))
      else {
        edit.remove('clips', clip.id)
        dropLoneLinks(edit, [clip.link])
      }
    }
    const clips = edit.clipsOn(lane.id)
    const moving = clips.filter(moves)
    if (moving.length === 0) continue
    const lands = moving[0]!.start - shift
    for (const clip of clips) {
      if (moves(clip) || clipEnd(clip) <= lands) continue
      // What is linked runs on past its picture by a split edit: there is nothing to hear of it beyond the next.
      const hair = clip.start < lands && clipEnd(clip) - lands < leastRest(edit, lane)
      if (!hair && (scope === 'track' || !clip.link || clip.start >= lands))
        return refuse(
          'overlap',
          `Closing up would push clips on ${lane.name} into one that reaches across. Close up this track ` +
            `alone, or lock ${lane.name}.`,
          [lane.id],
        )
      edit.patchClip(clip.id, sliceClip(clip, clip.start, lands))
    }
    edit.shiftClips(lane.id, moves, -shift)
  }
  if (scope !== 'track') shiftMarkers(edit, track.reelId, from, to, -by)
}

/** Sounds that begin inside a stretch while their picture begins after it: they belong to what comes after. */
function earlySounds(edit: Edit, lanes: readonly Track[], from: number, to: number, hair: number): Set<string> {
  const later = laterLinks(edit, lanes, to - hair)
  const early = new Set<string>()
  for (const lane of lanes) {
    if (lane.kind !== 'sound') continue
    for (const clip of edit.clipsOn(lane.id)) {
      const picture = clip.link ? later.get(clip.link) : undefined
      const within = clip.start >= from - hair && clip.start < to - hair
      if (picture !== undefined && picture < Infinity && within) early.add(clip.id)
    }
  }
  return early
}

/**
 * Cuts clips at a position. Clips that do not reach across it stay whole, and so do sounds of which less than half a
 * frame would be left. Right halves of linked clips are linked among themselves, so that each side stays a pair.
 * Markers go with the half they lie on.
 * @returns the ids of the right halves, by the id of the clip that was cut
 */
export function splitClips(edit: Edit, clips: readonly Clip[], at: number): Map<string, string> {
  const rights = new Map<string, string>()
  const links = new Map<string, string>()
  if (clips.length === 0) return rights
  // One place for all: sound is cut where its picture is, on the frame.
  const place = quantise(edit, leadTrack(edit, clips), at)
  for (const clip of clips) {
    const track = edit.need('tracks', clip.trackId)
    const cut = quantise(edit, track, place)
    const least = leastRest(edit, track)
    if (cut <= clip.start || cut - clip.start < least || cut >= clipEnd(clip) || clipEnd(clip) - cut < least) continue
    let link = clip.link
    if (link) {
      if (!links.has(link)) links.set(link, edit.newId())
      link = links.get(link)!
    }
    const right: Clip = { ...clip, id: edit.newId(), link, ...sliceClip(clip, cut, clipEnd(clip)) }
    edit.patchClip(clip.id, sliceClip(clip, clip.start, cut))
    edit.put('clips', right)
    copyEffects(edit, 'clip', clip.id, right.id)
    // What ends the clip now ends its right half.
    for (const transition of edit.all('transitions'))
      if (transition.leftId === clip.id) edit.put('transitions', { ...transition, leftId: right.id })
    for (const marker of edit.all('markers'))
      if (marker.clipId === clip.id && marker.at >= right.head) edit.put('markers', { ...marker, clipId: right.id })
    rights.set(clip.id, right.id)
  }
  // Partners that lie wholly behind the cut, by a split edit, belong to the right half.
  for (const [link, right] of links)
    for (const other of edit.linkedTo(link))
      if (other.start >= place - leastRest(edit, edit.need('tracks', other.trackId)))
        edit.patchClip(other.id, { link: right })
  return rights
}

/**
 * A clip with those linked to it that reach across a position, too: cut there together, each part has its own partner.
 * What lies on a locked track stays whole.
 */
function withPartnersAcross(edit: Edit, clip: Clip, at: number): Clip[] {
  const partners = clip.link ? edit.linkedTo(clip.link) : []
  const across = (other: Clip) => other.start < at && clipEnd(other) > at
  const open = (other: Clip) => !edit.need('tracks', other.trackId).locked
  return [clip, ...partners.filter((other) => other.id !== clip.id && across(other) && open(other))]
}

/**
 * Removes whatever lies between two positions on a track; clips that reach out of it keep their outer parts, unless
 * those are less than half a frame of sound. A linked clip of which a part is left on either side is cut together with
 * what it is linked to, so that each part keeps its partner.
 */
export function clearRange(
  edit: Edit,
  track: Track,
  from: number,
  to: number,
  keep: ReadonlySet<string> = new Set(),
): void {
  const least = leastRest(edit, track)
  for (const clip of edit.clipsOn(track.id)) {
    const end = clipEnd(clip)
    if (end <= from || clip.start >= to || keep.has(clip.id)) continue
    const [before, after] = [from - clip.start, end - to].map((rest) => rest > 0 && rest >= least)
    if (before && after) {
      splitClips(edit, withPartnersAcross(edit, clip, to), to)
      edit.patchClip(clip.id, sliceClip(clip, clip.start, from))
    } else if (before) edit.patchClip(clip.id, sliceClip(clip, clip.start, from))
    else if (after) edit.patchClip(clip.id, sliceClip(clip, to, end))
    else edit.remove('clips', clip.id)
  }
}

/** Drops links that hold a single clip, after clips were removed. */
export function dropLoneLinks(edit: Edit, links: Iterable<string | null>): void {
  const wanted = new Set<string>()
  for (const link of links) if (link) wanted.add(link)
  if (wanted.size === 0) return
  const members = new Map<string, Clip[]>()
  for (const clip of edit.all('clips')) {
    if (clip.link && wanted.has(clip.link)) members.set(clip.link, [...(members.get(clip.link) ?? []), clip])
  }
  for (const list of members.values()) if (list.length === 1) edit.patchClip(list[0]!.id, { link: null, sync: 0 })
}
