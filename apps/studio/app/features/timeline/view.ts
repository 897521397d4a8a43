import type { Clip, Marker, Project, Rate } from '@dusk/timeline'
import type { SourceState } from '~~/server/utils/sources'
import type { GhostClip } from './drop'
import type { Row } from './layout'

/** Everything a picture of the timeline depends on. */
export interface TimelineView {
  project: Project
  rows: readonly Row[]
  lanes: ReadonlyMap<string, readonly Clip[]>
  sources: Record<string, SourceState>
  /** How far the preview files of sources are that are still made, in words. */
  unready: ReadonlyMap<string, string>
  selection: ReadonlySet<string>
  /** Clips drawn otherwise than they are, while an edge is dragged. */
  changed: ReadonlyMap<string, Clip>
  /** Clips that are being dragged and are drawn faint. */
  lifted: ReadonlySet<string>
  ghosts: readonly GhostClip[]
  ghostBad: boolean
  /** Linked clips out of sync, by how many ticks. */
  slips: ReadonlyMap<string, number>
  /** Markers of clips, by clip. */
  markers: ReadonlyMap<string, readonly Marker[]>
  /** The marked stretch of the reel, in ticks. */
  range: { from: number; to: number } | null
  rate: Rate
  band: { x0: number; y0: number; x1: number; y1: number } | null
  width: number
  height: number
  scroll: number
  scrollY: number
  pixelsPerSecond: number
}
