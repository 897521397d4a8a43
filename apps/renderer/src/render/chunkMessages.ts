import type { ChunkTask } from './chunkDrawer'

/** What a drawing thread is told. `null`: there is nothing left to draw. */
export type ToThread = { kind: 'task'; task: ChunkTask | null } | { kind: 'stop' }

/** What it says. */
export type FromThread =
  { kind: 'wants' } | { kind: 'drawn' } | { kind: 'ended' } | { kind: 'failed'; name: string; message: string }
