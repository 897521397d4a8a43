import { randomUUID } from 'node:crypto'
import { existsSync, mkdirSync, readFileSync, utimesSync, writeFileSync } from 'node:fs'
import { dirname, join } from 'node:path'
import { afterAll, describe, expect, it, vi } from 'vitest'
import { eq } from 'drizzle-orm'
import { artefacts, assets, media, projectEdits, ProjectLog, projects, projectUse, renders } from '@dusk/store'
import { createProject, reelsOf } from '@dusk/timeline'
import { inPassingFolder, ownScratchName, passingFiles } from '@dusk/media'
import { makeArtefact } from '../src/jobs/artefact'
import { probeAsset } from '../src/jobs/probe'
import { freeRoom, sweep, SWEEP_LIMITS } from '../src/sweep'
import { film, openWorkBench } from './workBench'

const bench = await openWorkBench('sweep')
const { connection, storage, worker, project, upload, assetRow } = bench
afterAll(() => bench.close())

/** What the renders of these tests are made like. */
const settings = {
  ...{ width: 64, height: 36, rate: { num: 25, den: 1 }, quality: 'draft' as const, range: null, sound: false },
}

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
    // A process that is gone needs its work files no more, however young; one of another machine may.
    const goneName = ownScratchName().replace(/-\d+-/, '-4194303-')
    const gone = storage.path('scratch', goneName)
    const passing = join(passingFiles(), goneName)
    const foreign = storage.path('scratch', 'aaaaaaaaaaaa-4194303-bbbbbbbbbbbb')
    for (const folder of [gone, passing, foreign]) {
      mkdirSync(folder, { recursive: true })
      writeFileSync(`${folder}/part.ts`, 'x')
    }
    old(storage.path('uploads', 'aborted'))
    await new Promise((resolve) => setTimeout(resolve, 20))
    const fresh = await storage.scratch('.ts')
    writeFileSync(fresh, 'x')
    const own = await inPassingFolder(async (folder) => {
      await sweep(connection, new ProjectLog(connection), storage, { ...at, scratch: 60_000 })
      expect(existsSync(folder)).toBe(true)
      return folder
    })
    expect(existsSync(own)).toBe(false)
    expect(existsSync(storage.original(strayHash))).toBe(false)
    expect(existsSync(storage.artefactFolder('cd'.repeat(32)))).toBe(false)
    expect(existsSync(storage.path('scratch', 'left.ts'))).toBe(false)
    expect(existsSync(storage.path('uploads', 'aborted'))).toBe(false)
    expect(existsSync(fresh)).toBe(true)
    expect([gone, passing, foreign].map((folder) => existsSync(folder))).toEqual([false, false, true])
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

  it('never loses a file that comes in once more while it is removed', async () => {
    const { id } = await project()
    const first = await upload(id, film)
    const bytes = readFileSync(first.uploadPath)
    await probeAsset(worker(), { id: first.id, attempt: 0 })
    const { hash } = (await assetRow(first.id))!
    const log = new ProjectLog(connection)
    // Nothing speaks of it any more, and the very same file is on its way.
    await connection.db.delete(assets).where(eq(assets.id, first.id))
    const again = await upload(id, (path) => writeFileSync(path, bytes))
    await new Promise((resolve) => setTimeout(resolve, 20))
    let probing: Promise<void> | null = null
    const remove = storage.remove.bind(storage)
    const removing = vi.spyOn(storage, 'remove').mockImplementation(async (path) => {
      if (path !== storage.original(hash!)) return remove(path)
      probing = probeAsset(worker(), { id: again.id, attempt: 0 })
      await new Promise((resolve) => setTimeout(resolve, 1500))
      return remove(path)
    })
    await sweep(connection, log, storage, { ...at, upload: 3_600_000, stray: 3_600_000 })
    await probing
    removing.mockRestore()
    expect(probing).not.toBeNull()
    expect(await assetRow(again.id)).toMatchObject({ state: 'ready', hash })
    expect(existsSync(storage.original(hash!))).toBe(true)
    expect(await connection.db.select().from(media).where(eq(media.hash, hash!))).toHaveLength(1)
  })

  it('goes on past the long log of a project that was put away', async () => {
    const { id } = await project()
    const log = new ProjectLog(connection)
    for (let i = 0; i < 20; i++)
      await log.append(id, 'w', [
        { id: randomUUID(), command: { type: 'renameProject', name: `${i} ${'x'.repeat(150)}` } },
      ])
    await connection.db.update(projects).set({ deletedAt: new Date() }).where(eq(projects.id, id))
    const limits = { ...at, project: 3_600_000, log: { bytes: 1000, kept: 500, edits: 3 } }
    await expect(sweep(connection, new ProjectLog(connection), storage, limits)).resolves.not.toBeNull()
    const rows = await connection.db.select().from(projectEdits).where(eq(projectEdits.projectId, id))
    expect(rows).toHaveLength(20)
  })

  it('counts what was taken back to the length of a log', async () => {
    const { id } = await project()
    const log = new ProjectLog(connection)
    for (let i = 0; i < 20; i++) {
      const name = `${i} ${'x'.repeat(150)}`
      const { outcomes } = await log.append(id, 'w', [{ id: randomUUID(), command: { type: 'renameProject', name } }])
      const seq = (outcomes[0] as { seq: number }).seq
      await log.append(id, 'w', [{ id: randomUUID(), command: await log.revert(id, seq - 1) }])
    }
    // What is left is undos alone.
    await connection.sql`delete from project_edits where project_id = ${id} and patches is not null`
    await sweep(connection, log, storage, { ...at, log: { bytes: 1000, kept: 500, edits: 3 } })
    const rows = await connection.db.select().from(projectEdits).where(eq(projectEdits.projectId, id))
    expect(rows.length).toBeLessThan(10)
  })

  it('keeps the files of renders that are paused', async () => {
    const { id } = await project()
    const file = 'a1'.repeat(32)
    old(storage.given(file))
    const made = createProject('x', { width: 64, height: 36, rate: { num: 25, den: 1 } })
    const reelId = reelsOf(made)[0]!.id
    const effect = { id: randomUUID(), owner: 'reel', ownerId: reelId, order: 'a', domain: 'picture', kind: 'lutFile' }
    const document = { ...made, effects: { [effect.id]: { ...effect, on: true, strength: 100, settings: { file } } } }
    const row = { id: randomUUID(), projectId: id, reelId, name: 'r', settings, document: document as typeof made }
    await connection.db.insert(renders).values({ ...row, state: 'paused' })
    await sweep(connection, new ProjectLog(connection), storage, at)
    expect(existsSync(storage.given(file))).toBe(true)
    await connection.db.update(renders).set({ state: 'cancelled' }).where(eq(renders.id, row.id))
    await sweep(connection, new ProjectLog(connection), storage, at)
    expect(existsSync(storage.given(file))).toBe(false)
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

describe('room that is freed at once', () => {
  /** A project with a film that was read in and previewed. */
  async function filmed(make: (path: string) => void = film) {
    const { id } = await project()
    const asset = await upload(id, make)
    await probeAsset(worker(), { id: asset.id, attempt: 0 })
    const { hash } = (await assetRow(asset.id))!
    for (const { key } of await connection.db.select().from(artefacts).where(eq(artefacts.source, hash!)))
      await makeArtefact(worker(), { id: key, attempt: 0 })
    const keys = await connection.db.select().from(artefacts).where(eq(artefacts.source, hash!))
    return { id, hash: hash!, artefacts: keys }
  }
  const free = (...args: [Parameters<typeof freeRoom>[3], string?]) =>
    freeRoom(connection, new ProjectLog(connection), storage, ...args)
  const useOf = async (id: string) => (await projectUse(connection.db)).find((entry) => entry.id === id)

  it('is that of a project that was put away, with what only it uses', async () => {
    let bytes: Buffer
    const shared = await filmed((path) => void (film(path), (bytes = readFileSync(path))))
    const { id } = await project()
    for (const make of [film, (path: string) => writeFileSync(path, bytes)]) {
      const asset = await upload(id, make)
      await probeAsset(worker(), { id: asset.id, attempt: 0 })
    }
    const use = (await useOf(id))!
    expect(use.own).toBeGreaterThan(0)
    expect(use.own).toBeLessThan(use.sources)
    // One that is there is nobody's to remove.
    expect(await free('project', id)).toBe(0)
    await connection.db.update(projects).set({ deletedAt: new Date() }).where(eq(projects.id, id))
    expect(await free('project', id)).toBeGreaterThanOrEqual(use.own)
    expect(await useOf(id)).toBeUndefined()
    expect(existsSync(storage.original(shared.hash))).toBe(true)
    for (const { key } of shared.artefacts) expect(existsSync(storage.artefactFolder(key))).toBe(true)
  })

  it('is told by the bytes of what goes, previews too', async () => {
    const { id, hash, artefacts: made } = await filmed()
    const use = (await useOf(id))!
    expect(use.previews).toBe(made.reduce((sum, { bytes }) => sum + bytes, 0))
    await connection.db.update(projects).set({ deletedAt: new Date() }).where(eq(projects.id, id))
    const freed = (await free('project', id))!
    expect(freed).toBeGreaterThanOrEqual(use.sources + use.previews)
    expect(existsSync(storage.original(hash))).toBe(false)
    for (const { key } of made) expect(existsSync(storage.artefactFolder(key))).toBe(false)
  })

  it('is that of chunks, and of nothing that was used just now', async () => {
    const chunk = storage.path('chunks', 'bb', '1.ts')
    mkdirSync(dirname(chunk), { recursive: true })
    writeFileSync(chunk, 'x'.repeat(1000))
    const stray = storage.original('ab'.repeat(32))
    mkdirSync(dirname(stray), { recursive: true })
    writeFileSync(stray, 'x'.repeat(500))
    expect(await free('unused')).toBe(0)
    utimesSync(stray, new Date(0), new Date(0))
    expect(await free('unused')).toBe(500)
    expect(existsSync(chunk)).toBe(true)
    expect(await free('chunks')).toBe(1000)
    expect(existsSync(chunk)).toBe(false)
  })
})
