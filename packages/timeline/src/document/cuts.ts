import { ticksPerFrame } from '../time/ticks'
import type { Clip } from './clip'
import type { Project } from './project'
import { clipEnd } from './query'

/**
 * Whether an edge of a clip is a place of its own: a linked sound's that lies less than a frame beside the same edge of
 * its picture is not. Sounds lie on a finer grid, and seldom hold just as long as their pictures; people cut at the
 * picture.
 */
export function ownEdges(project: Project, reelId: string): (clip: Clip, edge: 'start' | 'end') => boolean {
  const frame = ticksPerFrame(project.reels[reelId]!.format.rate)
  const pictures = new Map<string, Clip[]>()
  const isPicture = (clip: Clip) => project.tracks[clip.trackId]?.kind === 'picture'
  for (const id in project.clips) {
    const clip = project.clips[id]!
    if (clip.link && isPicture(clip)) pictures.set(clip.link, [...(pictures.get(clip.link) ?? []), clip])
  }
  const placeOf = (clip: Clip, edge: 'start' | 'end') => (edge === 'start' ? clip.start : clipEnd(clip))
  return (clip, edge) => {
    if (!clip.link || isPicture(clip)) return true
    const at = placeOf(clip, edge)
    return !pictures.get(clip.link)?.some((picture) => Math.abs(placeOf(picture, edge) - at) < frame)
  }
}

/** Where clips of a reel begin and end, in ticks and in no order: each cut of a pair once, where its picture has it. */
export function cutPlaces(project: Project, reelId: string): number[] {
  const own = ownEdges(project, reelId)
  const places: number[] = []
  for (const id in project.clips) {
    const clip = project.clips[id]!
    if (project.tracks[clip.trackId]?.reelId !== reelId) continue
    if (own(clip, 'start')) places.push(clip.start)
    if (own(clip, 'end')) places.push(clipEnd(clip))
  }
  return places
}
