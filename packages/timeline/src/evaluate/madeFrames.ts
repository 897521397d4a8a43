import type { Asset } from '../document/asset'
import type { Clip, MediaClip } from '../document/clip'
import type { Project } from '../document/project'
import { ticksPerFrame } from '../time/ticks'
import { clipSourceRange, sourceTimeAt } from './timeMap'

/** Source frames whose in-between frames are made in one go: trims and other clips of the source share them. */
export const MADE_SEGMENT = 64

/** In-between frames of a stretch of a source: `factor` frames for each of its own. */
export interface MadeSegment {
  assetId: string
  factor: number
  /** Number of the stretch: it begins at source frame `segment × MADE_SEGMENT`. */
  segment: number
}

/** Whether the frames of a stretch are there. */
export type MadeFrames = (segment: MadeSegment) => boolean

/** Name of a stretch among those of one source. */
export const madeName = ({ factor, segment }: Pick<MadeSegment, 'factor' | 'segment'>): string => `${factor}.${segment}`

/** The stretch that a frame lies in, and its place there. @param index frame on the finer grid */
export function madeAt(factor: number, index: number): { segment: number; frame: number } {
  const segment = Math.floor(index / (MADE_SEGMENT * factor))
  return { segment, frame: index - segment * MADE_SEGMENT * factor }
}

/** Slowest that a clip plays, as a factor of its own speed. */
function slowest({ map }: Clip): number {
  if (map.kind === 'constant') return Math.abs(map.speed)
  return map.kind === 'freeze' ? 1 : Math.min(...map.points.map(({ speed }) => speed))
}

/**
 * How many frames are to be made of each of a clip's, so that every frame of the reel has one of its own; `null` where
 * none are wanted, or its footage has no steady rate to make them on.
 */
export function madeFactor(project: Project, clip: Clip): number | null {
  if (clip.kind !== 'media' || clip.params.slowMotion !== 'made' || clip.stream !== null) return null
  const asset = project.assets[clip.assetId]
  const reel = project.reels[project.tracks[clip.trackId]?.reelId ?? '']
  const rate = asset?.picture?.rate
  if (!rate || !reel || asset.kind !== 'video' || asset.picture!.variable) return null
  const needed = ticksPerFrame(rate) / slowest(clip) / ticksPerFrame(reel.format.rate)
  if (needed <= 1.001) return null
  return needed <= 2 ? 2 : needed <= 4 ? 4 : 8
}

/** The stretches that a clip shows, with what its transitions show beyond its trims. */
function segmentsOf(project: Project, clip: MediaClip, asset: Asset, factor: number): MadeSegment[] {
  const hidden = Object.values(project.transitions).filter(({ leftId, rightId }) => [leftId, rightId].includes(clip.id))
  const before = hidden.reduce((most, entry) => (entry.rightId === clip.id ? Math.max(most, entry.before) : most), 0)
  const after = hidden.reduce((most, entry) => (entry.leftId === clip.id ? Math.max(most, entry.after) : most), 0)
  const end = clip.start + clip.length
  const own = clipSourceRange(clip)
  const beyond = [sourceTimeAt(clip, clip.start - before), sourceTimeAt(clip, end + after)]
  const period = ticksPerFrame(asset.picture!.rate!)
  const last = Math.max(0, Math.ceil(asset.length / period) - 1)
  const at = (ticks: number) => Math.min(last, Math.max(0, Math.floor(ticks / period)))
  const first = Math.floor(at(Math.min(own.from, ...beyond)) / MADE_SEGMENT)
  const until = Math.floor(at(Math.max(own.to, ...beyond)) / MADE_SEGMENT)
  return Array.from({ length: until - first + 1 }, (_, i) => ({ assetId: asset.id, factor, segment: first + i }))
}

/** Every stretch of made frames that a project's clips name; each once. */
export function madeSegments(project: Project): MadeSegment[] {
  const found = new Map<string, MadeSegment>()
  for (const clip of Object.values(project.clips)) {
    const factor = madeFactor(project, clip)
    if (factor === null || clip.kind !== 'media') continue
    for (const segment of segmentsOf(project, clip, project.assets[clip.assetId]!, factor))
      found.set(`${segment.assetId} ${madeName(segment)}`, segment)
  }
  return [...found.values()]
}
