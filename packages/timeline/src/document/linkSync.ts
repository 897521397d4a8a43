import type { Clip } from './clip'
import type { Project } from './project'
import { positionOf, sourceTimeAt } from '../evaluate/timeMap'

/**
 * How much later than a link's leader a clip shows the moment of their source that the leader begins with, in ticks of
 * the reel.
 */
export function offsetOf(leader: Clip, clip: Clip): number {
  const position = positionOf(clip, sourceTimeAt(leader, leader.start))
  return position === null ? 0 : position - leader.start
}

/** The picture of a link, which the others are measured against; without one, its first clip. */
export function leaderOf(project: Project, clips: readonly Clip[]): Clip | undefined {
  return (
    clips.find((clip) => project.tracks[clip.trackId]?.kind === 'picture' && clip.map.kind !== 'freeze') ?? clips[0]
  )
}

/**
 * How far a clip is from being in sync with its link's picture, in ticks: positive when it comes late. Rounding of
 * picture edges to whole frames does not count.
 */
export function slipOf(leader: Clip, clip: Clip): number {
  if (leader.id === clip.id || clip.map.kind === 'freeze' || leader.map.kind === 'freeze') return 0
  const slip = offsetOf(leader, clip) - clip.sync + leader.sync
  // Less than a hundredth of a second is what two grids can differ by.
  return Math.abs(slip) < 7_056_000 ? 0 : slip
}

/** Every clip that is out of sync with its link's picture, and by how many ticks. */
export function slips(project: Project): Map<string, number> {
  const links = new Map<string, Clip[]>()
  for (const id in project.clips) {
    const clip = project.clips[id]!
    if (!clip.link) continue
    const list = links.get(clip.link)
    if (list) list.push(clip)
    else links.set(clip.link, [clip])
  }
  const found = new Map<string, number>()
  for (const members of links.values()) {
    const leader = leaderOf(project, members)!
    for (const clip of members) {
      const slip = slipOf(leader, clip)
      if (slip !== 0) found.set(clip.id, slip)
    }
  }
  return found
}
