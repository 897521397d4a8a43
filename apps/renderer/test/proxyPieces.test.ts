import { execFileSync } from 'node:child_process'
import { randomUUID } from 'node:crypto'
import { existsSync, mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { dirname, join } from 'node:path'
import { afterAll, beforeAll, beforeEach, describe, expect, it, vi } from 'vitest'
import { and, eq, isNotNull } from 'drizzle-orm'
import { examine, inspectFile, makeProxyPiece } from '@dusk/media'
import { artefact, artefacts, lookAt, media, pieceName, piecesOf, takeUpAgain } from '@dusk/store'
import { frameCount, PROXY_PIECE } from '@dusk/timeline'
import { nextPiece } from '../src/artefacts/proxy'
import { afterGlances } from '../src/jobs/afterGlances'
import { makeArtefact } from '../src/jobs/artefact'
import { probeAsset } from '../src/jobs/probe'
import { sweep, SWEEP_LIMITS } from '../src/sweep'
import { openWorkBench } from './workBench'

const bench = await openWorkBench('pieces')
const { connection, queue, storage, worker, project, upload, assetRow } = bench
const { db } = connection
afterAll(() => bench.close())

/** Four pieces and a bit of one. */
const FRAMES = 4 * PROXY_PIECE + 10
const PIECES = [0, 1, 2, 3, 4]

const made = join(mkdtempSync(join(tmpdir(), 'dusk-pieces-')), 'long.mp4')
beforeAll(() => {
  execFileSync('ffmpeg', [
    ...`-v error -f lavfi -i testsrc2=s=64x36:r=25 -frames:v ${FRAMES} -c:v libx264 -preset ultrafast`.split(' '),
    ...['-pix_fmt', 'yuv420p', '-g', '31', made],
  ])
})
afterAll(() => rmSync(dirname(made), { recursive: true }))

/** The same pictures, in a file that was not read in before. */
const long = (path: string) =>
  execFileSync('ffmpeg', [
    ...['-v', 'error', '-i', made, '-c', 'copy', '-metadata', `comment=${randomUUID()}`, '-f', 'mp4', path],
  ])

/** A long source that was read in; its proxy is asked for, not begun. */
async function source() {
  const { id } = await project()
  const asset = await upload(id, long)
  await probeAsset(worker(), { id: asset.id, attempt: 0 })
  const { hash } = (await assetRow(asset.id))!
  await db.update(artefacts).set({ state: 'ready' }).where(eq(artefacts.kind, 'glance'))
  const { key } = artefact('proxy', hash!)
  const row = async () => (await db.select().from(artefacts).where(eq(artefacts.key, key)))[0]!
  const work = (context = worker()) => row().then(({ attempt }) => makeArtefact(context, { id: key, attempt }, 'proxy'))
  return { hash: hash!, key, row, work }
}

/** As if those who look kept looking: however slow the machine is, it does not become long ago. */
const lookOn = () =>
  db
    .update(artefacts)
    .set({ nearAt: new Date(Date.now() + 3_600_000) })
    .where(isNotNull(artefacts.nearAt))

/** Names of files as they come to their place, in order. */
const published = vi.spyOn(storage, 'publish')
const pieces = (key: string) =>
  published.mock.calls.flatMap(([, to]) => {
    const found = PIECES.find((piece) => to === storage.artefact(key, pieceName(piece)))
    return found ?? []
  })
beforeEach(async () => {
  published.mockClear()
  await db.update(artefacts).set({ state: 'failed' }).where(eq(artefacts.state, 'waiting'))
})

describe('a long proxy', () => {
  it('is made in pieces from what is looked at on, and joined to one with every frame', async () => {
    const { key, row, work } = await source()
    await lookAt(db, queue, key, 3 * PROXY_PIECE + 5)
    await work()
    expect(pieces(key)).toEqual([3, 4, 0, 1, 2])
    expect(await row()).toMatchObject({ state: 'ready', progress: 1, facts: { width: 64, height: 36 } })
    const { picture } = await inspectFile(storage.artefact(key, 'proxy.mp4'))
    expect(picture).toMatchObject({ frames: FRAMES, rate: '25/1', start: 0 })
  })

  it('goes on after its worker was stopped, with the pieces that are there', async () => {
    const { key, row, work } = await source()
    const first = worker()
    published.mockImplementationOnce(async function (this: typeof storage, ...args) {
      await Object.getPrototypeOf(storage).publish.apply(storage, args)
      first.stop()
    })
    await work(first)
    const there = Object.keys(piecesOf((await row()).facts)).map(Number)
    expect(there.length).toBeLessThan(3)
    expect((await row()).state).toBe('working')
    await takeUpAgain(db, queue)
    published.mockClear()
    await work()
    expect(pieces(key)).toEqual(PIECES.filter((piece) => !there.includes(piece)))
    expect((await row()).state).toBe('ready')
  })

  it('lets others have their turn after each piece, those that are looked at first', async () => {
    const [one, other] = [await source(), await source()]
    await one.work()
    expect(pieces(one.key)).toEqual([0])
    expect(await one.row()).toMatchObject({ state: 'waiting', attempt: 0 })
    await lookAt(db, queue, one.key, 500)
    await lookOn()
    await one.work()
    // Nobody looks at the other: this one is finished first.
    expect(pieces(one.key)).toEqual([0, 2, 3, 4, 1])
    // Both are looked at: they take turns.
    await db.update(artefacts).set({ state: 'waiting', facts: null }).where(eq(artefacts.key, one.key))
    await lookAt(db, queue, other.key, 0)
    await lookOn()
    published.mockClear()
    await one.work()
    expect(pieces(one.key)).toEqual([2])
    await other.work()
    expect(pieces(other.key)).toEqual([0])
    await one.work()
    expect(pieces(one.key)).toEqual([2, 3])
    await db.update(artefacts).set({ state: 'failed' }).where(eq(artefacts.key, one.key))
    await other.work()
    expect((await other.row()).state).toBe('ready')
  })

  it('stands back behind first glances, before it begins and after each piece', async () => {
    const { key, hash, row, work } = await source()
    const glances = (state: 'waiting' | 'ready') =>
      db
        .update(artefacts)
        .set({ state, heartbeatAt: new Date() })
        .where(and(eq(artefacts.kind, 'glance'), eq(artefacts.source, hash)))
    await lookAt(db, queue, key, 0)
    await glances('waiting')
    await work()
    expect(pieces(key)).toEqual([0])
    expect((await row()).state).toBe('waiting')
    let settled = false
    const waited = afterGlances(worker()).then(() => (settled = true))
    await new Promise((resolve) => setTimeout(resolve, 700))
    expect(settled).toBe(false)
    await glances('ready')
    await waited
    await work()
    expect(pieces(key)).toEqual(PIECES)
  })

  it('is made in one go where its pieces do not fit', async () => {
    const { hash, key, row, work } = await source()
    // As if piece 1 had been found a frame too early, before a worker was stopped.
    const wrong = { 1: { frames: PROXY_PIECE, hashes: { [PROXY_PIECE]: '0x1', [2 * PROXY_PIECE]: '0x2' } } }
    await db
      .update(artefacts)
      .set({ facts: { pieces: wrong } })
      .where(eq(artefacts.key, key))
    const original = storage.original(hash)
    const scratch = await storage.scratch('.mp4')
    await makeProxyPiece(original, await examine(original, 1), 1, scratch)
    await storage.publish(scratch, storage.artefact(key, pieceName(1)))
    await work()
    expect(await row()).toMatchObject({ state: 'ready', facts: { pieces: {} } })
    expect(PIECES.some((piece) => existsSync(storage.artefact(key, pieceName(piece))))).toBe(false)
    const [known] = await db.select().from(media).where(eq(media.hash, hash))
    expect(frameCount(known!.metadata.table!)).toBe(FRAMES)
    expect((await inspectFile(storage.artefact(key, 'proxy.mp4'))).picture!.frames).toBe(FRAMES)
  })

  it('keeps its pieces for pages that read them, and loses them later', async () => {
    const { key, row, work } = await source()
    await work()
    const { log } = worker()
    await sweep(connection, log, storage)
    expect(existsSync(storage.artefact(key, pieceName(2)))).toBe(true)
    await sweep(connection, log, storage, { ...SWEEP_LIMITS, piece: -1000 })
    expect(PIECES.some((piece) => existsSync(storage.artefact(key, pieceName(piece))))).toBe(false)
    expect((await row()).facts).not.toHaveProperty('pieces')
    expect(existsSync(storage.artefact(key, 'proxy.mp4'))).toBe(true)
  })
})

it('takes what is looked at and what follows, then what is left from the start', () => {
  const order = (near: number | null, there: number[] = []) => {
    const done = new Set(there)
    const taken: number[] = []
    while (done.size < 5) {
      const next = nextPiece(5, done, near)
      done.add(next)
      taken.push(next)
    }
    return taken
  }
  expect(order(null)).toEqual([0, 1, 2, 3, 4])
  expect(order(2.5 * PROXY_PIECE)).toEqual([2, 3, 4, 0, 1])
  expect(order(99 * PROXY_PIECE, [1])).toEqual([4, 0, 2, 3])
})
