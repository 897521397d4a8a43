import { randomUUID } from 'node:crypto'
import { execFileSync } from 'node:child_process'
import { mkdirSync, mkdtempSync, rmSync, statSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { dirname, join } from 'node:path'
import { eq } from 'drizzle-orm'
import postgres from 'postgres'
import { FolderStorage } from '@dusk/media'
import { assets, connect, migrateDatabase, ProjectLog, Queue } from '@dusk/store'
import { createProject } from '@dusk/timeline'
import type { Context } from '../src/jobs/context'

const MIGRATIONS = join(import.meta.dirname, '../../../packages/store/migrations')

/** A database and a storage of a test's own, with workers on them: what one test sweeps away is no other's. */
export async function openWorkBench(name: string) {
  const given = process.env.DATABASE_URL
  if (!given) throw new Error('These tests need a database: run them with ./dusk test.')
  const url = new URL(given)
  url.pathname = `/${name}_${randomUUID().slice(0, 8)}`
  const server = postgres(given, { max: 1, onnotice: () => {} })
  await server.unsafe(`create database ${url.pathname.slice(1)}`)
  await server.end()
  await migrateDatabase(url.href, MIGRATIONS)
  const dir = mkdtempSync(join(tmpdir(), `dusk-${name}-`))
  const storage = new FolderStorage(join(dir, 'store'))
  const connection = connect(url.href, 8)
  const queue = new Queue(url.href)
  await queue.ready()

  /** A worker: its own log and its own way of being stopped. */
  function worker(): Context & { stop(): void } {
    const stop = new AbortController()
    const log = new ProjectLog(connection)
    const ending = { stopping: stop.signal, stop: () => stop.abort(new Error('stopped')) }
    return { connection, log, queue, storage, hardware: { encoders: [], tried: Promise.resolve() }, ...ending }
  }

  async function project() {
    const made = createProject('Lantern work', { width: 640, height: 360, rate: { num: 25, den: 1 } })
    await new ProjectLog(connection).create(made)
    return made
  }

  /** A file as it lies after its upload, with its row. */
  async function upload(projectId: string, make: (path: string) => void) {
    const id = randomUUID()
    const uploadPath = storage.path('uploads', id)
    mkdirSync(dirname(uploadPath), { recursive: true })
    make(uploadPath)
    const row = { id, projectId, fileName: 'boat.mp4', size: statSync(uploadPath).size, windowId: 'w', uploadPath }
    await connection.db.insert(assets).values({ ...row, state: 'waiting', heartbeatAt: new Date() })
    return row
  }

  const assetRow = async (id: string) => (await connection.db.select().from(assets).where(eq(assets.id, id)))[0]

  async function close(): Promise<void> {
    await queue.stop()
    await connection.close()
    rmSync(dir, { recursive: true, force: true })
  }

  return { url: url.href, dir, storage, connection, queue, worker, project, upload, assetRow, close }
}

export type WorkBench = Awaited<ReturnType<typeof openWorkBench>>

/** Writes a second of film with sound, another one each time. */
export const film = (path: string) =>
  execFileSync('ffmpeg', [
    ...'-v error -f lavfi -i testsrc2=s=64x36:r=25:d=1 -f lavfi -i sine=d=1'.split(' '),
    ...'-c:v libx264 -preset ultrafast -pix_fmt yuv420p -c:a aac -metadata'.split(' '),
    ...[`comment=${randomUUID()}`, '-f', 'mp4', path],
  ])
