import type { Storage } from '@dusk/media'
import type { Connection, Database, Freeable, ProjectLog } from '@dusk/store'
import { sweepChunks, sweepGiven, sweepLeftovers, sweepStrays } from './files'
import { compactLogs, type LogLimits } from './log'
import { sweepPieces } from './pieces'
import { purgeProject, purgeProjects, sweepArtefacts, sweepAssets, sweepMedia } from './rows'

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
  /** Pieces of a proxy that is whole: pages may still be reading them. */
  piece: number
  chunks: number
  log: LogLimits
}

export const SWEEP_LIMITS: SweepLimits = {
  project: 7 * DAY,
  source: DAY,
  stray: 2 * HOUR,
  scratch: 6 * HOUR,
  upload: 2 * DAY,
  piece: HOUR / 12,
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

/** Does something while no other worker sweeps. @returns `null` while one does */
async function alone<T>({ sql }: Connection, work: () => Promise<T>): Promise<T | null> {
  const own = await sql.reserve()
  try {
    const [row] = await own`select pg_try_advisory_lock(${LOCK}) as mine`
    if (!row?.mine) return null
    try {
      return await work()
    } finally {
      await own`select pg_advisory_unlock(${LOCK})`
    }
  } finally {
    own.release()
  }
}

/** Removes stored files that no source is made of, with what was made of them. @returns bytes freed */
async function removeMedia(db: Database, storage: Storage, before: Date, only?: readonly string[]) {
  const remove = (hash: string) => storage.remove(storage.original(hash))
  const { files, keys } = await sweepMedia(db, before, only, remove)
  const bytes = files.reduce((sum, { size }) => sum + size, 0)
  return { files, bytes: bytes + (await removeArtefacts(storage, keys)) }
}

async function removeArtefacts(storage: Storage, keys: readonly string[]): Promise<number> {
  let bytes = 0
  for (const key of keys) {
    const folder = storage.artefactFolder(key)
    bytes += (await storage.size(folder)).bytes
    await storage.remove(folder)
  }
  return bytes
}

/**
 * Frees what nothing needs any more. Marks from documents, their logs and waiting renders, so that whatever can be
 * taken back still finds its files.
 * @returns what was freed, or `null` while another worker is at it
 */
export async function sweep(
  connection: Connection,
  log: ProjectLog,
  storage: Storage,
  limits: SweepLimits = SWEEP_LIMITS,
): Promise<Swept | null> {
  const { db } = connection
  return alone(connection, async () => {
    const before = (age: number) => new Date(Date.now() - age)
    const projects = (await purgeProjects(db, before(limits.project))).length
    const edits = await compactLogs(connection, log, limits.log)
    const sources = await sweepAssets(db, before(limits.source))
    const { files, bytes: freed } = await removeMedia(db, storage, before(limits.source))
    const keys = await sweepArtefacts(db, log, before(limits.source))
    let bytes = freed + (await removeArtefacts(storage, keys))
    bytes += await sweepStrays(db, storage, before(limits.stray))
    bytes += await sweepLeftovers(db, storage, { scratch: before(limits.scratch), uploads: before(limits.upload) })
    bytes += await sweepPieces(db, storage, before(limits.piece))
    bytes += await sweepGiven(db, storage, before(limits.source))
    bytes += await sweepChunks(db, storage, limits.chunks)
    return { projects, sources, files: files.length, artefacts: keys.length, edits, bytes }
  })
}

/** What was named until just now may be taken back, or be on its way into a document. */
const JUST_NOW = 10 * 60_000

/**
 * Frees room at once: the parts of renders that none runs on, what nothing names any more, or a project that was put
 * away, for good.
 * @returns bytes freed, or `null` while another worker sweeps
 */
export async function freeRoom(
  connection: Connection,
  log: ProjectLog,
  storage: Storage,
  what: Freeable,
  projectId: string | null = null,
): Promise<number | null> {
  const { db } = connection
  return alone(connection, async () => {
    if (what === 'chunks') return sweepChunks(db, storage, 0)
    if (what === 'project') {
      const hashes = projectId ? await purgeProject(db, projectId) : []
      return (await removeMedia(db, storage, new Date(), hashes)).bytes
    }
    const before = new Date(Date.now() - JUST_NOW)
    await sweepAssets(db, before)
    const { bytes } = await removeMedia(db, storage, before)
    const made = await removeArtefacts(storage, await sweepArtefacts(db, log, before))
    return bytes + made + (await sweepStrays(db, storage, before)) + (await sweepGiven(db, storage, before))
  })
}
