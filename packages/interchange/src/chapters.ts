import type { Marker, Project } from '@dusk/timeline'

/** A named part of a film, in ticks from its beginning. */
export interface Chapter {
  from: number
  to: number
  name: string
}

/**
 * Chapters from the markers of a reel that have a name, as they lie in a range of it: one behind the other, the first
 * from the beginning on, since players want it there.
 * @param from begin of the range on the reel, in ticks
 * @param to its end
 */
export function chaptersOf(project: Project, reelId: string, from: number, to: number): Chapter[] {
  const named = Object.values(project.markers)
    .filter((marker: Marker) => marker.reelId === reelId && marker.name && marker.at >= from && marker.at < to)
    .sort((a, b) => a.at - b.at)
  if (named.length === 0) return []
  const starts = named.map(({ at, name }) => ({ from: at - from, name }))
  if (starts[0]!.from > 0) starts.unshift({ from: 0, name: 'Beginning' })
  return starts.map((start, i) => ({ ...start, to: starts[i + 1]?.from ?? to - from }))
}
