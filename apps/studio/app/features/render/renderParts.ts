import { reelLength, reelsOf, type Format, type Project } from '@dusk/timeline'

/** What is rendered: the reel, what is marked of it, each stretch that a marker names, or every reel. */
export type PartsKind = 'all' | 'range' | 'stretches' | 'reels'

/** One file of a render: a reel or a stretch of it. */
export interface RenderPart {
  reelId: string
  name: string
  format: Format
  /** In ticks; `null` is the whole reel. */
  range: { from: number; to: number } | null
  /** In ticks. */
  length: number
}

/** Stretches that markers of a reel name, in order, as far as the reel goes. */
function stretchesOf(project: Project, reelId: string): { name: string; from: number; to: number }[] {
  const end = reelLength(project, reelId)
  return Object.values(project.markers)
    .filter((marker) => marker.reelId === reelId && marker.length > 0 && marker.at >= 0 && marker.at < end)
    .sort((a, b) => a.at - b.at)
    .map(({ name, at, length }) => ({ name, from: at, to: Math.min(end, at + length) }))
}

/**
 * The files that a render makes, each with a name of its own.
 * @param name what the person calls the render
 * @param marked what is marked of the reel
 */
export function renderParts(
  kind: PartsKind,
  project: Project,
  reelId: string,
  name: string,
  marked: { from: number; to: number } | null,
): RenderPart[] {
  const reel = project.reels[reelId]
  if (!reel) return []
  const whole = { reelId, name, format: reel.format, range: null, length: reelLength(project, reelId) }
  if (kind === 'range') return marked ? [{ ...whole, range: marked, length: marked.to - marked.from }] : []
  if (kind === 'stretches')
    return stretchesOf(project, reelId).map(({ name: called, from, to }, i) => ({
      ...whole,
      ...{ name: `${name}, ${called || i + 1}`, range: { from, to }, length: to - from },
    }))
  if (kind === 'reels')
    return reelsOf(project)
      .map((one) => ({
        ...{ reelId: one.id, name: one.name, format: one.format, range: null, length: reelLength(project, one.id) },
      }))
      .filter(({ length }) => length > 0)
  return [whole]
}
