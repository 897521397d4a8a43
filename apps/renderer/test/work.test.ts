import { randomUUID } from 'node:crypto'
import { execFileSync } from 'node:child_process'
import {
  existsSync,
  mkdirSync,
  mkdtempSync,
  readFileSync,
  renameSync,
  rmSync,
  statSync,
  utimesSync,
  writeFileSync,
} from 'node:fs'
import { tmpdir } from 'node:os'
import { dirname, join } from 'node:path'
import sharp from 'sharp'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { eq } from 'drizzle-orm'
import { FolderStorage, hashFile } from '@dusk/media'
import {
  artefacts,
  assets,
  claim,
  connect,
  media,
  projectEdits,
  ProjectLog,
  projects,
  Queue,
  renders,
  takeUpAgain,
  type Connection,
} from '@dusk/store'
import { createProject, reelsOf } from '@dusk/timeline'
import { makeArtefact } from '../src/jobs/artefact'
import { runClaimed } from '../src/jobs/claimed'
import type { Context } from '../src/jobs/context'
import { drawPoster, posterPath } from '../src/jobs/poster'
import { probeAsset } from '../src/jobs/probe'
import { sweep, SWEEP_LIMITS } from '../src/sweep'

let connection: Connection
let queue: Queue
const dir = mkdtempSync(join(tmpdir(), 'dusk-work-'))
const storage = new FolderStorage(join(dir, 'store'))

beforeAll(async () => {
  const url = process.env.DATABASE_URL
  if (!url) throw new Error('These tests need a database: run them with ./dusk test.')
  connection = connect(url, 8)
  queue = new Queue(url)
  await queue.ready()
})
afterAll(async () => {
  await queue.stop()
  await connection.close()
  rmSync(dir, { recursive: true, force: true })
})

/** A worker: its own log and its own way of being stopped. */
function worker(): Context & { stop(): void } {
  const stop = new AbortController()
  const log = new ProjectLog(connection)
  return { connection, log, queue, storage, stopping: stop.signal, stop: () => stop.abort(new Error('stopped')) }
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

const film = (path: string) =>
  execFileSync('ffmpeg', [
    ...'-v error -f lavfi -i testsrc2=s=64x36:r=25:d=1 -f lavfi -i sine=d=1'.split(' '),
    ...'-c:v libx264 -preset ultrafast -pix_fmt yuv420p -c:a aac -metadata'.split(' '),
    ...[`comment=${randomUUID()}`, '-f', 'mp4', path],
  ])

const assetRow = async (id: string) => (await connection.db.select().from(assets).where(eq(assets.id, id)))[0]

describe('a file that is given for a source', () => {
  /** A source that was read in, and the file it came from. */
  async function source() {
    const { id } = await project()
    const asset = await upload(id, film)
    const bytes = readFileSync(asset.uploadPath)
    await probeAsset(worker(), { id: asset.id, attempt: 0 })
    const given = async (make: (path: string) => void) => {
      const next = await upload(id, make)
      await connection.db.update(assets).set({ replaces: asset.id }).where(eq(assets.id, next.id))
      await probeAsset(worker(), { id: next.id, attempt: 0 })
      return next
    }
    return { id, asset, bytes, given }
  }

  it('is its own again where it is the same, and leaves no second source', async () => {
    const { id, asset, bytes, given } = await source()
    const { hash } = (await assetRow(asset.id))!
    rmSync(storage.original(hash!))
    const again = await given((path) => writeFileSync(path, bytes))
    expect(existsSync(storage.original(hash!))).toBe(true)
    expect(await assetRow(again.id)).toBeUndefined()
    expect(Object.keys((await new ProjectLog(connection).read(id)).project.assets)).toEqual([asset.id])
  })

  it('comes in as a source of its own where it is another, the first one untouched until it is decided', async () => {
    const { id, asset, given } = await source()
    const before = (await new ProjectLog(connection).read(id)).project.assets[asset.id]
    const other = await given(film)
    expect(await assetRow(other.id)).toMatchObject({ state: 'ready', replaces: asset.id })
    const { project: after } = await new ProjectLog(connection).read(id)
    expect(after.assets[asset.id]).toEqual(before)
    expect(after.assets[other.id]).toMatchObject({ name: 'boat.mp4', kind: 'video' })
  })
})

describe('work that is claimed', () => {
  it('goes to one of two workers, and is done once', async () => {
    const { id } = await project()
    const asset = await upload(id, film)
    await Promise.all([worker(), worker()].map((context) => probeAsset(context, { id: asset.id, attempt: 0 })))
    expect(await assetRow(asset.id)).toMatchObject({ state: 'ready', attempt: 0, uploadPath: null })
    const { seq } = await new ProjectLog(connection).read(id)
    expect(seq).toBe(1)
  })

  it('is taken up again when its worker falls silent, and the one that lost it writes nothing any more', async () => {
    const { id } = await project()
    const asset = await upload(id, film)
    // The first worker took it and died.
    const lost = (await claim(connection.db, 'probe', asset.id, 0))!
    await connection.db
      .update(assets)
      .set({ heartbeatAt: new Date(0) })
      .where(eq(assets.id, asset.id))
    expect(await takeUpAgain(connection.db, queue)).toBeGreaterThan(0)
    expect(await assetRow(asset.id)).toMatchObject({ state: 'waiting', attempt: 1 })
    expect(await lost.write({ state: 'failed', message: 'late' })).toBe(false)
    expect(await lost.beat()).toBe(false)
    await probeAsset(worker(), { id: asset.id, attempt: 1 })
    expect(await assetRow(asset.id)).toMatchObject({ state: 'ready', message: null })
  })

  it('is found where it waits without a job, but not while its job is still in the queue', async () => {
    const { id } = await project()
    const asset = await upload(id, film)
    const old = new Date(Date.now() - 60_000)
    await connection.db.update(assets).set({ heartbeatAt: old }).where(eq(assets.id, asset.id))
    await queue.send('probe', { id: asset.id, attempt: 0 })
    await takeUpAgain(connection.db, queue)
    expect(await assetRow(asset.id)).toMatchObject({ attempt: 0 })
    await connection.sql`delete from pgboss.job where singleton_key = ${`${asset.id}/0`}`
    await takeUpAgain(connection.db, queue)
    expect(await assetRow(asset.id)).toMatchObject({ attempt: 1, state: 'waiting' })
  })

  it('and its job are written together or not at all', async () => {
    const { id } = await project()
    const renderId = randomUUID()
    const made = createProject('x', { width: 64, height: 36, rate: { num: 25, den: 1 } })
    const settings = {
      width: 64,
      height: 36,
      rate: { num: 25, den: 1 },
      quality: 'draft' as const,
      range: null,
      sound: false,
    }
    const write = (fails: boolean) =>
      connection.db.transaction(async (tx) => {
        const row = { id: renderId, projectId: id, reelId: reelsOf(made)[0]!.id, name: 'r', settings, document: made }
        await tx.insert(renders).values({ ...row, state: 'waiting', heartbeatAt: new Date() })
        await queue.send('render', { id: renderId, attempt: 0 }, tx)
        if (fails) throw new Error('the power went')
      })
    const jobs = () => connection.sql`select state from pgboss.job where singleton_key = ${`${renderId}/0`}`
    await expect(write(true)).rejects.toThrow('power')
    expect(await jobs()).toHaveLength(0)
    await write(false)
    expect(await jobs()).toHaveLength(1)
    await connection.db.delete(renders).where(eq(renders.id, renderId))
    await connection.sql`delete from pgboss.job where singleton_key = ${`${renderId}/0`}`
  })

  it('is given back when the worker is told to stop, and an error of ours deletes nothing of the person’s', async () => {
    const { id } = await project()
    const asset = await upload(id, film)
    const stopping = worker()
    await runClaimed(
      stopping,
      'probe',
      { id: asset.id, attempt: 0 },
      {
        run: async () => {
          stopping.stop()
          throw new Error('stopped')
        },
        fail: async () => {
          throw new Error('must not fail')
        },
      },
    )
    expect(await assetRow(asset.id)).toMatchObject({ state: 'working' })
    await takeUpAgain(connection.db, queue)
    expect(await assetRow(asset.id)).toMatchObject({ state: 'waiting', attempt: 1 })
    // The database goes away while the file is read.
    const hash = await hashFile(asset.uploadPath)
    const failing = {
      ...worker(),
      log: {
        read: () => Promise.reject(new Error('connection lost')),
        append: () => Promise.reject(new Error('connection lost')),
      },
    }
    await probeAsset(failing as unknown as Context, { id: asset.id, attempt: 1 })
    const after = await assetRow(asset.id)
    expect(after!.state).toBe('working')
    const kept = existsSync(asset.uploadPath) || existsSync(storage.original(hash))
    expect(kept).toBe(true)
    await connection.db
      .update(assets)
      .set({ heartbeatAt: new Date(0) })
      .where(eq(assets.id, asset.id))
    await takeUpAgain(connection.db, queue)
    await probeAsset(worker(), { id: asset.id, attempt: 2 })
    expect(await assetRow(asset.id)).toMatchObject({ state: 'ready' })
  })

  it('ends for good, in words, when the file is at fault; then only the upload goes', async () => {
    const { id } = await project()
    const asset = await upload(id, (path) => writeFileSync(path, 'no film at all'))
    await probeAsset(worker(), { id: asset.id, attempt: 0 })
    expect(await assetRow(asset.id)).toMatchObject({ state: 'failed', message: expect.stringContaining('can be read') })
    expect(existsSync(asset.uploadPath)).toBe(false)
  })

  it('makes artefacts that two workers were asked for once, and says what it found of the source', async () => {
    const { id } = await project()
    const asset = await upload(id, film)
    await probeAsset(worker(), { id: asset.id, attempt: 0 })
    const { hash } = (await assetRow(asset.id))!
    const rows = await connection.db.select().from(artefacts).where(eq(artefacts.source, hash!))
    expect(rows.map((row) => row.kind).sort()).toEqual(['glance', 'glance', 'proxy', 'sound'])
    for (const { key } of rows)
      await Promise.all([worker(), worker()].map((context) => makeArtefact(context, { id: key, attempt: 0 })))
    const done = await connection.db.select().from(artefacts).where(eq(artefacts.source, hash!))
    expect(done.every((row) => row.state === 'ready' && row.bytes > 0)).toBe(true)
    const proxy = done.find((row) => row.kind === 'proxy')!
    expect(existsSync(storage.artefact(proxy.key, 'proxy.mp4'))).toBe(true)
    const { project: document } = await new ProjectLog(connection).read(id)
    expect(document.assets[asset.id]!.sounds[0]!.length).toBeGreaterThan(0)
  })
})

describe('the sweeper', () => {
  const at = { ...SWEEP_LIMITS, project: 0, source: 0, stray: 0, scratch: 0, upload: 0 }
  const old = (path: string, text = 'x') => {
    mkdirSync(dirname(path), { recursive: true })
    writeFileSync(path, text)
    utimesSync(path, new Date(0), new Date(0))
  }

  it('keeps what a document or an edit that can be taken back names, and frees the rest', async () => {
    const { id } = await project()
    const [used, removed, gone] = [await upload(id, film), await upload(id, film), await upload(id, film)]
    for (const row of [used, removed, gone]) await probeAsset(worker(), { id: row.id, attempt: 0 })
    const log = new ProjectLog(connection)
    await log.append(id, 'w', [{ id: randomUUID(), command: { type: 'removeAsset', assetId: removed.id } }])
    await log.append(id, 'w', [{ id: randomUUID(), command: { type: 'removeAsset', assetId: gone.id } }])
    const hashes = await Promise.all([used, removed, gone].map(async (row) => (await assetRow(row.id))!.hash!))
    // Nothing in the log speaks of the last one any more.
    const { project: document, seq } = await log.read(id)
    await connection.db.update(projects).set({ document, documentSeq: seq }).where(eq(projects.id, id))
    await connection.sql`delete from project_edits where project_id = ${id} and
      (command::text like ${`%${gone.id}%`} or patches::text like ${`%${gone.id}%`})`
    await new Promise((resolve) => setTimeout(resolve, 20))
    await sweep(connection, log, storage, at)
    expect(hashes.map((hash) => existsSync(storage.original(hash)))).toEqual([true, true, false])
    expect(await assetRow(gone.id)).toBeUndefined()
  })

  it('frees a deleted project once it can’t be brought back, and not before', async () => {
    const { id } = await project()
    const asset = await upload(id, film)
    await probeAsset(worker(), { id: asset.id, attempt: 0 })
    const { hash } = (await assetRow(asset.id))!
    const log = new ProjectLog(connection)
    await connection.db.update(projects).set({ deletedAt: new Date() }).where(eq(projects.id, id))
    await sweep(connection, log, storage, { ...at, project: 3_600_000 })
    expect(existsSync(storage.original(hash!))).toBe(true)
    await new Promise((resolve) => setTimeout(resolve, 20))
    await sweep(connection, log, storage, at)
    expect(existsSync(storage.original(hash!))).toBe(false)
    expect(await connection.db.select().from(media).where(eq(media.hash, hash!))).toEqual([])
  })

  it('removes strays, leftovers and what older versions made, and nothing that is fresh or waits', async () => {
    const { id } = await project()
    const waiting = await upload(id, film)
    const strayHash = 'ab'.repeat(32)
    old(storage.original(strayHash))
    old(storage.artefact('cd'.repeat(32), 'proxy.mp4'))
    old(storage.path('scratch', 'left.ts'))
    old(storage.path('uploads', 'aborted'))
    await new Promise((resolve) => setTimeout(resolve, 20))
    const fresh = storage.path('scratch', 'in-use.ts')
    writeFileSync(fresh, 'x')
    await sweep(connection, new ProjectLog(connection), storage, { ...at, scratch: 60_000 })
    expect(existsSync(storage.original(strayHash))).toBe(false)
    expect(existsSync(storage.artefactFolder('cd'.repeat(32)))).toBe(false)
    expect(existsSync(storage.path('scratch', 'left.ts'))).toBe(false)
    expect(existsSync(storage.path('uploads', 'aborted'))).toBe(false)
    expect(existsSync(fresh)).toBe(true)
    expect(existsSync(waiting.uploadPath)).toBe(true)
  })

  it('keeps chunks within their limit, the longest unused first, and those of a running render', async () => {
    const { id } = await project()
    const chunk = (n: number) => storage.path('chunks', 'aa', `${n}.ts`)
    for (const n of [1, 2, 3]) {
      mkdirSync(dirname(chunk(n)), { recursive: true })
      writeFileSync(chunk(n), 'x'.repeat(1000))
      await new Promise((resolve) => setTimeout(resolve, 15))
    }
    await sweep(connection, new ProjectLog(connection), storage, { ...at, chunks: 2500 })
    expect([1, 2, 3].map((n) => existsSync(chunk(n)))).toEqual([false, true, true])
    const made = createProject('x', { width: 64, height: 36, rate: { num: 25, den: 1 } })
    const settings = {
      width: 64,
      height: 36,
      rate: { num: 25, den: 1 },
      quality: 'draft' as const,
      range: null,
      sound: false,
    }
    const row = { id: randomUUID(), projectId: id, reelId: reelsOf(made)[0]!.id, name: 'r', settings, document: made }
    await connection.db
      .insert(renders)
      .values({ ...row, state: 'working', startedAt: new Date(0), heartbeatAt: new Date() })
    await sweep(connection, new ProjectLog(connection), storage, { ...at, chunks: 0 })
    expect(existsSync(chunk(3))).toBe(true)
    await connection.db.delete(renders).where(eq(renders.id, row.id))
    await sweep(connection, new ProjectLog(connection), storage, { ...at, chunks: 0 })
    expect(existsSync(chunk(3))).toBe(false)
  })

  it('keeps files that effects of a document or edits that can be taken back name, and frees the rest', async () => {
    const { id, reels } = await project()
    const [used, undone, unused] = ['ab', 'cd', 'ef'].map((pair) => pair.repeat(32)) as [string, string, string]
    for (const hash of [used, undone, unused]) old(storage.given(hash))
    const log = new ProjectLog(connection)
    const add = (file: string) => ({
      ...{ type: 'addEffects' as const, owner: 'reel' as const, ownerIds: [Object.keys(reels)[0]!], replace: true },
      effects: [{ domain: 'picture' as const, kind: 'lutFile', settings: { file }, strength: 100 }],
    })
    for (const file of [undone, used]) await log.append(id, 'w', [{ id: randomUUID(), command: add(file) }])
    await sweep(connection, log, storage, at)
    expect([used, undone, unused].map((hash) => existsSync(storage.given(hash)))).toEqual([true, true, false])
    // One that was just given waits for its effect.
    writeFileSync(storage.given(unused), 'x')
    await sweep(connection, log, storage, { ...at, source: 3_600_000 })
    expect(existsSync(storage.given(unused))).toBe(true)
  })

  it('makes a long log shorter and leaves the document as it is', async () => {
    const { id } = await project()
    const log = new ProjectLog(connection)
    for (let i = 0; i < 30; i++)
      await log.append(id, 'w', [
        { id: randomUUID(), command: { type: 'renameProject', name: `${i} ${'x'.repeat(150)}` } },
      ])
    const before = (await log.read(id)).project
    await sweep(connection, log, storage, { ...at, log: { bytes: 4000, kept: 1500, edits: 3 } })
    const rows = await connection.db.select().from(projectEdits).where(eq(projectEdits.projectId, id))
    expect(rows.length).toBeLessThan(15)
    expect(rows.length).toBeGreaterThanOrEqual(3)
    expect((await new ProjectLog(connection).read(id)).project).toEqual(before)
    await log.append(id, 'w', [{ id: randomUUID(), command: { type: 'renameProject', name: 'On' } }])
    expect((await new ProjectLog(connection).read(id)).project.name).toBe('On')
  })

  it('is done by one worker at a time', async () => {
    const other = await connection.sql.reserve()
    await other`select pg_advisory_lock(7410226)`
    expect(await sweep(connection, new ProjectLog(connection), storage, at)).toBeNull()
    await other`select pg_advisory_unlock(7410226)`
    other.release()
    expect(await sweep(connection, new ProjectLog(connection), storage, at)).not.toBeNull()
  })
})

describe('the poster of a project', () => {
  const posterSeq = async (id: string) =>
    (await connection.db.select({ seq: projects.posterSeq }).from(projects).where(eq(projects.id, id)))[0]!.seq
  const append = async (id: string, command: object) =>
    (await new ProjectLog(connection).append(id, 'w', [{ id: randomUUID(), command: command as never }])).outcomes

  it('is a frame of its reel after an edit, drawn once, and goes with what it showed', async () => {
    const made = await project()
    const clipId = randomUUID()
    const trackId = Object.values(made.tracks).find(({ kind }) => kind === 'picture')!.id
    const ground = { kind: 'generator', generator: 'plain', settings: { colour: '#ff9e5e' }, clipId, trackId }
    const generated = [{ ...ground, start: 0, length: 705_600_000 }]
    await append(made.id, { type: 'addGenerated', mode: 'free', generated })
    await drawPoster(worker(), { id: made.id, attempt: 1 })
    expect(await posterSeq(made.id)).toBe(1)
    const path = posterPath(storage, made.id, 1)
    const { channels } = await sharp(path).stats()
    expect((await sharp(path).metadata()).width).toBe(640)
    for (const [i, value] of [255, 158, 94].entries()) expect(Math.abs(channels[i]!.mean - value)).toBeLessThan(4)
    // Asked for again there is nothing to do; for an edit that others have followed neither.
    const drawn = statSync(path).mtimeMs
    await drawPoster(worker(), { id: made.id, attempt: 1 })
    await append(made.id, { type: 'renameProject', name: 'Other lanterns' })
    await drawPoster(worker(), { id: made.id, attempt: 1 })
    expect([statSync(path).mtimeMs, await posterSeq(made.id)]).toEqual([drawn, 1])
    // The next one takes its place, and the sweeper what it was.
    await drawPoster(worker(), { id: made.id, attempt: 2 })
    const past = new Date(Date.now() - 3 * 24 * 3_600_000)
    for (const seq of [1, 2]) utimesSync(posterPath(storage, made.id, seq), past, past)
    await sweep(connection, new ProjectLog(connection), storage)
    expect([1, 2].map((seq) => existsSync(posterPath(storage, made.id, seq)))).toEqual([false, true])
    await append(made.id, { type: 'remove', clipIds: [clipId], closeUp: false })
    await drawPoster(worker(), { id: made.id, attempt: 3 })
    expect(await posterSeq(made.id)).toBeNull()
  })

  it('waits for sources that are not there', async () => {
    const made = await project()
    const asset = await upload(made.id, film)
    await probeAsset(worker(), { id: asset.id, attempt: 0 })
    const trackId = Object.values(made.tracks).find(({ kind }) => kind === 'picture')!.id
    const piece = { clipId: randomUUID(), trackId, assetId: asset.id, stream: null, start: 0, source: 0, link: null }
    await append(made.id, { type: 'place', mode: 'free', pieces: [{ ...piece, length: 705_600_000 / 2 }] })
    const { hash } = (await assetRow(asset.id))!
    const original = storage.original(hash!)
    renameSync(original, `${original}.away`)
    await drawPoster(worker(), { id: made.id, attempt: 2 })
    expect(await posterSeq(made.id)).toBeNull()
    renameSync(`${original}.away`, original)
    await drawPoster(worker(), { id: made.id, attempt: 2 })
    expect(await posterSeq(made.id)).toBe(2)
  })
})
