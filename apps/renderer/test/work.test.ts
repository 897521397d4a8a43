import { randomUUID } from 'node:crypto'
import { existsSync, readFileSync, renameSync, rmSync, statSync, utimesSync, writeFileSync } from 'node:fs'
import sharp from 'sharp'
import { afterAll, describe, expect, it } from 'vitest'
import { eq } from 'drizzle-orm'
import { BUCKET_AWAY, BucketAway, hashFile } from '@dusk/media'
import { artefacts, assets, claim, media, ProjectLog, projects, renders, takeUpAgain } from '@dusk/store'
import { createProject, reelsOf } from '@dusk/timeline'
import { makeArtefact } from '../src/jobs/artefact'
import { runClaimed } from '../src/jobs/claimed'
import type { Context } from '../src/jobs/context'
import { drawPoster, posterPath } from '../src/jobs/poster'
import { probeAsset } from '../src/jobs/probe'
import { sweep } from '../src/sweep'
import { film, openWorkBench } from './workBench'

const bench = await openWorkBench('work')
const { connection, queue, storage, worker, project, upload, assetRow } = bench
afterAll(() => bench.close())

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

describe('a file that decoders do not read', () => {
  it('is kept as footage without loss, and is its own again when it is given once more', async () => {
    const page = (grey: number) =>
      sharp({ create: { width: 64, height: 36, channels: 3, background: { r: grey, g: grey, b: grey } } })
        .png()
        .toBuffer()
    const pages = await Promise.all([40, 80, 120].map(page))
    const webp = await sharp(pages, { join: { animated: true } })
      .webp({ delay: [100, 100, 100] })
      .toBuffer()
    const { id } = await project()
    const asset = await upload(id, (path) => writeFileSync(path, webp))
    await connection.db.update(assets).set({ fileName: 'lanterns.webp' }).where(eq(assets.id, asset.id))
    await probeAsset(worker(), { id: asset.id, attempt: 0 })
    const { hash } = (await assetRow(asset.id))!
    const [known] = await connection.db.select().from(media).where(eq(media.hash, hash!))
    expect(known!.metadata).toMatchObject({ kind: 'video', videoCodec: 'ffv1', width: 64, height: 36 })
    expect(known!.metadata.notes[0]).toBe('An animated WebP, kept as footage without loss.')
    expect(known!.size).toBe(statSync(storage.original(hash!)).size)
    rmSync(storage.original(hash!))
    const again = await upload(id, (path) => writeFileSync(path, webp))
    await connection.db.update(assets).set({ replaces: asset.id }).where(eq(assets.id, again.id))
    await probeAsset(worker(), { id: again.id, attempt: 0 })
    expect(existsSync(storage.original(hash!))).toBe(true)
    expect(await assetRow(again.id)).toBeUndefined()
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

  it('is given back when the worker is told to stop; an error of ours deletes nothing of the person’s', async () => {
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
        tell: () => Promise.resolve(),
        fail: async () => {
          throw new Error('must not fail')
        },
      },
    )
    expect(await assetRow(asset.id)).toMatchObject({ state: 'working' })
    await takeUpAgain(connection.db, queue)
    expect(await assetRow(asset.id)).toMatchObject({ state: 'waiting', attempt: 1 })
    // The bucket is away: it waits for it, however often it was tried.
    await connection.db.update(assets).set({ attempt: 9 }).where(eq(assets.id, asset.id))
    await runClaimed(
      worker(),
      'probe',
      { id: asset.id, attempt: 9 },
      {
        run: () => Promise.reject(new BucketAway(new Error('refused'))),
        tell: () => Promise.resolve(),
        fail: () => Promise.reject(new Error('must not fail')),
      },
    )
    expect(await assetRow(asset.id)).toMatchObject({ state: 'working', message: BUCKET_AWAY })
    await connection.db.update(assets).set({ state: 'waiting', attempt: 1 }).where(eq(assets.id, asset.id))
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
    const trackOf = (wanted: string) => Object.values(made.tracks).find(({ kind }) => kind === wanted)!.id
    const place = { assetId: asset.id, start: 0, length: 705_600_000 / 2, source: 0, link: null }
    // Its sound is not made yet, and not needed.
    const pieces = [
      { ...place, clipId: randomUUID(), trackId: trackOf('picture'), stream: null },
      { ...place, clipId: randomUUID(), trackId: trackOf('sound'), stream: 0 },
    ]
    await append(made.id, { type: 'place', mode: 'free', pieces })
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
