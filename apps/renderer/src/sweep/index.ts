import { removeFile, type FolderStorage } from '@dusk/media'
import type { Connection, ProjectLog } from '@dusk/store'
import { sweepChunks, sweepGiven, sweepLeftovers, sweepStrays } from './files'
import { compactLogs, type LogLimits } from './log'
import { purgeProjects, sweepArtefacts, sweepAssets, sweepMedia } from './rows'

const HOUR = 3_600_000
const DAY = 24 * HOUR
const MB = 1024 ** 2

/** How long things are kept that nothing needs, in milliseconds, and how much room others may take, in bytes. */
export interface SweepLimits {
  /** A deleted project can be brought back for this long. */
  project: number
  /** A source that nothing names any more, a failed upload that was looked at. */
  source: number
  /** Files without a row, work files, uploads that nobody goes on with. */
  stray: number
  scratch: number
  upload: number
  chunks: number
  log: LogLimits
}

export const SWEEP_LIMITS: SweepLimits = {
  project: 7 * DAY,
  source: DAY,
  stray: 2 * HOUR,
  scratch: 6 * HOUR,
  upload: 2 * DAY,
  chunks: Number(process.env.DUSK_CHUNK_BYTES ?? 20 * 1024 * MB),
  log: { bytes: 96 * MB, kept: 4 * MB, edits: 50 },
}

/** What a sweep freed. */
export interface Swept {
  projects: number
  sources: number
  files: number
  artefacts: number
  edits: number
  bytes: number
}

/** Lock that one sweeper at a time holds, whatever machine it is on. */
const LOCK = 7_410_226

/**
 * Frees what nothing needs any more. Marks from documents, their logs and waiting renders, so that whatever can be
 * taken back still finds its files.
 * @returns what was freed, or `null` while another worker is at it
 */
export async function sweep(
  connection: Connection,
  log: ProjectLog,
  storage: FolderStorage,
  limits: SweepLimits = SWEEP_LIMITS,
): Promise<Swept | null> {
  const { db, sql } = connection
  const own = await sql.reserve()
  try {
    const [row] = await own`select pg_try_advisory_lock(${LOCK}) as mine`
    if (!row?.mine) return null
    try {
      const before = (age: number) => new Date(Date.now() - age)
      const projects = (await purgeProjects(db, before(limits.project))).length
      const edits = await compactLogs(connection, log, limits.log)
      const sources = await sweepAssets(db, before(limits.source))
      const hashes = await sweepMedia(db, before(limits.source))
      for (const hash of hashes) await removeFile(storage.original(hash))
      const keys = await sweepArtefacts(db, log, before(limits.source))
      for (const key of keys) await removeFile(storage.artefactFolder(key))
      let bytes = await sweepStrays(db, storage, before(limits.stray))
      bytes += await sweepLeftovers(db, storage, { scratch: before(limits.scratch), uploads: before(limits.upload) })
      bytes += await sweepGiven(db, storage, before(limits.source))
      bytes += await sweepChunks(db, storage, limits.chunks)
      return { projects, sources, files: hashes.length, artefacts: keys.length, edits, bytes }
    } finally {
      await own`select pg_advisory_unlock(${LOCK})`
    }
  } finally {
    own.release()
  }
}
