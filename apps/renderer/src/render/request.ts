import type { Storage } from '@dusk/media'
import type { RenderProgress, RenderSettings } from '@dusk/store'
import type { Project } from '@dusk/timeline'
import type { ChunkTask, ChunkWork } from './chunkDrawer'
import type { FilmShelf } from './filmShelf'
import type { ProgressMeter } from './progress'
import type { SourceBook } from './sources'

/** What is to be rendered. */
export interface RenderSubject {
  project: Project
  reelId: string
  settings: RenderSettings
  book: SourceBook
  storage: Storage
  signal?: AbortSignal
}

/** What is to be rendered, and where to. */
export interface RenderRequest extends RenderSubject {
  /** Where the finished file goes; it appears there whole or not at all. */
  out: string
  /** Chunks that are drawn at once; without it, as many as turn out to be of use. */
  lanes?: number
  /** Has the missing chunks made with the help of other workers; without it this process makes them. */
  share?: (render: SharedRender) => Promise<void>
  progress?: (progress: RenderProgress) => void
}

/** A render whose chunks are shared out. */
export interface SharedRender {
  work: ChunkWork
  /** All chunks in order, and those whose files are not there. */
  chunks: readonly ChunkTask[]
  missing: readonly ChunkTask[]
  meter: ProgressMeter
  /** Films that were opened for it. */
  films: FilmShelf
  /** Ends it: the render was cancelled, or another part of it has failed. */
  signal: AbortSignal
}

/** A render that can't be made, in words for the person. */
export class RenderFailed extends Error {
  constructor(message: string) {
    super(message)
    this.name = 'RenderFailed'
  }
}
