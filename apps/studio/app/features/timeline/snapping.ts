import { bisector } from 'd3-array'
import { clipEnd, clipName, ownEdges, reading, type Project } from '@dusk/timeline'

/** A place that drags stick to, and what it is called. */
export interface SnapTarget {
  tick: number
  name: string
}

/** Edges of the reel's clips (without those that are dragged), the playhead and the start. */
export function snapTargets(
  project: Project,
  reelId: string,
  without: ReadonlySet<string>,
  playhead: number,
): SnapTarget[] {
  const targets: SnapTarget[] = [
    { tick: 0, name: 'start' },
    { tick: playhead, name: 'playhead' },
  ]
  const entities = reading(project)
  const own = ownEdges(project, reelId)
  for (const marker of Object.values(project.markers)) {
    const clip = marker.clipId ? project.clips[marker.clipId] : undefined
    const here = clip
      ? !without.has(clip.id) && project.tracks[clip.trackId]?.reelId === reelId
      : marker.reelId === reelId
    if (here)
      targets.push({ tick: clip ? clip.start + marker.at - clip.head : marker.at, name: marker.name || 'marker' })
  }
  for (const clip of Object.values(project.clips)) {
    if (without.has(clip.id) || project.tracks[clip.trackId]?.reelId !== reelId) continue
    const name = clipName(entities, clip)
    if (own(clip, 'start')) targets.push({ tick: clip.start, name: `${name}, start` })
    if (own(clip, 'end')) targets.push({ tick: clipEnd(clip), name: `${name}, end` })
  }
  return targets.sort((a, b) => a.tick - b.tick)
}

const byTick = bisector((target: SnapTarget) => target.tick).left

/**
 * How far edges have to be moved for the nearest of them to meet a target.
 * @param edges positions in ticks
 * @param reach farthest that is moved, in ticks
 */
export function snapBy(
  edges: readonly number[],
  targets: readonly SnapTarget[],
  reach: number,
): { by: number; target: SnapTarget } | null {
  let best: { by: number; target: SnapTarget } | null = null
  for (const edge of edges) {
    const next = byTick(targets, edge)
    for (const target of [targets[next - 1], targets[next]]) {
      if (!target) continue
      const by = target.tick - edge
      if (Math.abs(by) <= reach && (!best || Math.abs(by) < Math.abs(best.by))) best = { by, target }
    }
  }
  return best
}
