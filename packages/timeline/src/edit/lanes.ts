import type { Clip } from '../document/clip'
import { clipEnd } from '../document/query'
import type { Track } from '../document/track'
import { snapToFrame, snapToSample } from '../time/ticks'
import type { Edit } from './edit'
import { refuse } from './refuse'

/** Which tracks a close-up or a push moves: the track itself, or every track of the reel that is not locked. */
export type Scope = 'track' | 'all'

/** `ticks` on the grid of a track: frames for pictures, samples for sound. */
export function snapOn(edit: Edit, track: Track, ticks: number): number {
  return track.kind === 'picture'
    ? snapToFrame(ticks, edit.need('reels', track.reelId).format.rate)
    : snapToSample(ticks)
}

/** The track, or a refusal when it is locked. */
export function openTrack(edit: Edit, trackId: string): Track {
  const track = edit.need('tracks', trackId)
  if (track.locked) refuse('locked', `${track.name} is locked. Unlock it to change it.`, [trackId])
  return track
}

/** Clips of `ids` and those linked to them, each on an unlocked track. */
export function linkedClips(edit: Edit, ids: readonly string[], linked = true): Clip[] {
  const links = new Set<string>()
  const wanted = new Set(ids)
  for (const id of ids) {
    const link = edit.need('clips', id).link
    if (link) links.add(link)
  }
  const found: Clip[] = []
  for (const clip of edit.all('clips')) {
    if (wanted.has(clip.id) || (linked && clip.link && links.has(clip.link))) found.push(clip)
  }
  for (const clip of found) openTrack(edit, clip.trackId)
  return found
}

/** Unlocked tracks of the reel that `track` is in; only `track` itself with the scope `track`. */
export function tracksInScope(edit: Edit, track: Track, scope: Scope): Track[] {
  if (scope === 'track') return [track]
  return [...edit.all('tracks')].filter((other) => other.reelId === track.reelId && !other.locked)
}

/** The part of a clip between two reel positions, which lie inside it and on its grid. Keyframes and map stay put. */
export function sliceClip(clip: Clip, from: number, to: number): Pick<Clip, 'start' | 'length' | 'head'> {
  return { start: from, length: to - from, head: clip.head + from - clip.start }
}

/**
 * Cuts clips at a position. Clips that do not reach across it stay whole. Right halves of linked clips are linked
 * among themselves, so that each side stays a pair.
 * @returns the ids of the right halves, by the id of the clip that was cut
 */
export function splitClips(edit: Edit, clips: readonly Clip[], at: number): Map<string, string> {
  const rights = new Map<string, string>()
  const links = new Map<string, string>()
  for (const clip of clips) {
    const cut = snapOn(edit, edit.need('tracks', clip.trackId), at)
    if (cut <= clip.start || cut >= clipEnd(clip)) continue
    let link = clip.link
    if (link) {
      if (!links.has(link)) links.set(link, edit.newId())
      link = links.get(link)!
    }
    const right: Clip = { ...clip, id: edit.newId(), link, ...sliceClip(clip, cut, clipEnd(clip)) }
    edit.patchClip(clip.id, sliceClip(clip, clip.start, cut))
    edit.put('clips', right)
    rights.set(clip.id, right.id)
  }
  return rights
}

/** Removes whatever lies between two positions on a track; clips that reach out of it keep their outer parts. */
export function clearRange(
  edit: Edit,
  track: Track,
  from: number,
  to: number,
  keep: ReadonlySet<string> = new Set(),
): void {
  for (const clip of edit.clipsOn(track.id)) {
    const end = clipEnd(clip)
    if (end <= from || clip.start >= to || keep.has(clip.id)) continue
    if (clip.start < from && end > to) {
      edit.put('clips', { ...clip, id: edit.newId(), link: null, ...sliceClip(clip, to, end) })
      edit.patchClip(clip.id, sliceClip(clip, clip.start, from))
    } else if (clip.start < from) edit.patchClip(clip.id, sliceClip(clip, clip.start, from))
    else if (end > to) edit.patchClip(clip.id, sliceClip(clip, to, end))
    else edit.remove('clips', clip.id)
  }
}

/**
 * Makes room: everything from `at` on moves later by `length` on the tracks in scope. Clips of `track` that reach
 * across `at` are cut there together with what is linked to them; on other tracks such clips stay as they are.
 */
export function openGap(edit: Edit, track: Track, at: number, length: number, scope: Scope): void {
  const across = edit.clipsOn(track.id).filter((clip) => clip.start < at && clipEnd(clip) > at)
  if (across.length > 0) {
    const group = linkedClips(edit, across.map((clip) => clip.id)) // prettier-ignore
    splitClips(edit, group, at)
  }
  for (const lane of tracksInScope(edit, track, scope)) {
    const by = snapOn(edit, lane, length)
    const from = snapOn(edit, lane, at)
    for (const clip of edit.clipsOn(lane.id))
      if (clip.start >= from) edit.patchClip(clip.id, { start: clip.start + by })
  }
}

/**
 * Takes a stretch of time out of the tracks in scope: what begins at or after its end moves earlier.
 * @throws CommandRefused when a clip in the way would be overlapped, naming its track
 */
export function closeRange(edit: Edit, track: Track, from: number, to: number, scope: Scope): void {
  for (const lane of tracksInScope(edit, track, scope)) {
    const by = snapOn(edit, lane, to) - snapOn(edit, lane, from)
    const begin = snapOn(edit, lane, to)
    const clips = edit.clipsOn(lane.id)
    const moving = clips.filter((clip) => clip.start >= begin)
    if (moving.length === 0) continue
    const staying = clips.filter((clip) => clip.start < begin)
    const reach = staying.reduce((end, clip) => Math.max(end, clipEnd(clip)), 0)
    if (moving[0]!.start - by < reach)
      refuse(
        'overlap',
        `Closing up would push clips on ${lane.name} into one that reaches across. Close up this track alone, or lock ${lane.name}.`,
        [lane.id],
      )
    for (const clip of moving) edit.patchClip(clip.id, { start: clip.start - by })
  }
}

/** Refuses when clips overlap on any of the given tracks. */
export function refuseOverlap(edit: Edit, trackIds: Iterable<string>): void {
  for (const trackId of new Set(trackIds)) {
    const clips = edit.clipsOn(trackId)
    for (let i = 1; i < clips.length; i++) {
      const [left, right] = [clips[i - 1]!, clips[i]!]
      if (clipEnd(left) > right.start)
        refuse('overlap', `There is already a clip at that place on ${edit.need('tracks', trackId).name}.`, [
          left.id,
          right.id,
        ])
    }
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
  for (const list of members.values()) if (list.length === 1) edit.patchClip(list[0]!.id, { link: null })
}
