import type { ChunkTask } from './chunkDrawer'
import type { ThreadFailure } from './renderThread'

/** What a drawing thread is told. `null`: there is nothing left to draw. */
export type ToThread = { kind: 'task'; task: ChunkTask | null } | { kind: 'stop' }

/** What it says. */
export type FromThread =
  | { kind: 'wants' }
  /** A frame of a chunk was drawn; the file of one is in its place. */
  | { kind: 'drew'; n: number }
  | { kind: 'made'; n: number }
  | { kind: 'ended' }
  | ThreadFailure
