import type { HardwareId } from '@dusk/interchange'
import type { Storage } from '@dusk/media'
import type { Connection, ProjectLog, Queue } from '@dusk/store'

/** What every job works with. */
export interface Context {
  connection: Connection
  log: ProjectLog
  queue: Queue
  storage: Storage
  /** Encoders in hardware that were found here so far, and what settles once all were tried. */
  hardware: { readonly encoders: readonly HardwareId[]; readonly tried: Promise<void> }
  /** Aborted when the worker is told to stop. */
  stopping: AbortSignal
}
