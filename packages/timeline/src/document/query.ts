import { ticksPerFrame } from '../time/ticks'
import type { Clip } from './clip'
import { compareOrder } from './order'
import type { Project } from './project'
import type { Reel } from './reel'
import type { Track } from './track'

/** First tick after a clip. */
export function clipEnd(clip: Pick<Clip, 'start' | 'length'>): number {
  return clip.start + clip.length
}

/** Reels in the order they are shown. */
export function reelsOf(project: Project): Reel[] {
  return Object.values(project.reels).sort(compareOrder)
}

/** Tracks of a reel, back to front for pictures, top to bottom for sound; pictures come first. */
export function tracksOf(project: Project, reelId: string): Track[] {
  return Object.values(project.tracks)
    .filter((track) => track.reelId === reelId)
    .sort((a, b) => (a.kind === b.kind ? compareOrder(a, b) : a.kind === 'picture' ? -1 : 1))
}

/** Clips by track of each state of a document: documents are never changed, so what was worked out once stays true. */
const laneCache = new WeakMap<Project['clips'], ReadonlyMap<string, readonly Clip[]>>()

/** Clips of every track, each list in time order. Not to be changed by the caller. */
export function trackClips(project: Pick<Project, 'clips'>): ReadonlyMap<string, readonly Clip[]> {
  let lanes = laneCache.get(project.clips)
  if (!lanes) laneCache.set(project.clips, (lanes = sortLanes(project)))
  return lanes
}

/** Remembers the lanes of a state that was made from another one of which they are known. */
export function rememberTrackClips(clips: Project['clips'], lanes: ReadonlyMap<string, readonly Clip[]>): void {
  laneCache.set(clips, lanes)
}

function sortLanes(project: Pick<Project, 'clips'>): Map<string, Clip[]> {
  const map = new Map<string, Clip[]>()
  for (const id in project.clips) {
    const clip = project.clips[id]!
    const list = map.get(clip.trackId)
    if (list) list.push(clip)
    else map.set(clip.trackId, [clip])
  }
  for (const list of map.values()) list.sort((a, b) => a.start - b.start)
  return map
}

/** Clips of one track in time order. */
export function clipsOn(project: Project, trackId: string): readonly Clip[] {
  return trackClips(project).get(trackId) ?? []
}

/**
 * The end of the last clip in a reel, in ticks; 0 for an empty one. Sound that ends less than half a frame after the
 * last picture counts as ending with it: it is worth no frame in which nothing is seen.
 */
export function reelLength(project: Project, reelId: string): number {
  let [end, shown] = [0, 0]
  for (const [trackId, clips] of trackClips(project)) {
    const track = project.tracks[trackId]
    if (track?.reelId !== reelId || clips.length === 0) continue
    const last = clipEnd(clips.at(-1)!)
    end = Math.max(end, last)
    if (track.kind === 'picture') shown = Math.max(shown, last)
  }
  const reel = project.reels[reelId]
  return reel && shown > 0 && end - shown < ticksPerFrame(reel.format.rate) / 2 ? shown : end
}

/** Clips linked to any of `ids`, those included. Unknown ids are left out. */
export function withLinked(project: Project, ids: Iterable<string>): string[] {
  const wanted = new Set<string>()
  const links = new Set<string>()
  for (const id of ids) {
    const clip = project.clips[id]
    if (!clip) continue
    wanted.add(id)
    if (clip.link) links.add(clip.link)
  }
  if (links.size > 0) {
    for (const id in project.clips) {
      const link = project.clips[id]!.link
      if (link && links.has(link)) wanted.add(id)
    }
  }
  return [...wanted]
}
