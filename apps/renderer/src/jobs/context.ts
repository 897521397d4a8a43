import type { Storage } from '@dusk/media'
import type { Connection, ProjectLog, Queue } from '@dusk/store'

/** What every job works with. */
export interface Context {
  connection: Connection
  log: ProjectLog
  queue: Queue
  storage: Storage
  /** Aborted when the worker is told to stop. */
  stopping: AbortSignal
}
