import { randomUUID } from 'node:crypto'
import { execFileSync } from 'node:child_process'
import { existsSync, readdirSync } from 'node:fs'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { eq, sql } from 'drizzle-orm'
import { assets, estimates, renders, type RenderSettings } from '@dusk/store'
import { reelsOf, type Command, type Project } from '@dusk/timeline'
import { runEstimate } from '../src/jobs/estimate'
import { probeAsset } from '../src/jobs/probe'
import { runRender } from '../src/jobs/render'
import { besideEachOther, estimateChunks, sampleOrder, spreadOrder } from '../src/render/estimateMath'
import { openWorkBench } from './workBench'

const SECOND = 705_600_000
const bench = await openWorkBench('estimate')
const { connection, storage, worker } = bench
const { db } = connection
afterAll(bench.close)

describe('chunks that stand for all', () => {
  it('are every one of them in the end, and lie evenly from the first', () => {
    for (const count of [1, 2, 3, 7, 8, 75]) {
      const order = spreadOrder(count)
      expect([...order].sort((a, b) => a - b)).toEqual(Array.from({ length: count }, (_, i) => i))
    }
    // The first four of 75 are a quarter of them apart.
    const first = spreadOrder(75)
      .slice(0, 4)
      .sort((a, b) => a - b)
    for (const [i, n] of first.entries()) expect(Math.abs(n - (i * 75) / 4)).toBeLessThanOrEqual(1)
    expect(spreadOrder(0)).toEqual([])
  })

  it('are taken of the kinds in the order of their frames, again and again', () => {
    const kinds = ['pier', 'pier', 'gap', 'pier', 'quay', 'quay', 'pier', 'pier', 'pier']
    const chunks = kinds.map((kind) => ({ kind, frames: kind === 'gap' ? 10 : 100 }))
    const order = sampleOrder(chunks)
    // Six hundred frames of the pier and two hundred of the quay are as three to one; the gap comes last.
    expect(order.map((i) => kinds[i])).toEqual('pier pier pier quay pier pier pier quay gap'.split(' '))
    expect([...order].sort((a, b) => a - b)).toEqual(kinds.map((_, i) => i))
    // The first two of the pier are half of it apart.
    expect(order.slice(0, 2)).toEqual([0, 6])
    expect(sampleOrder([])).toEqual([])
  })

  const chunk = (frames: number, bytes: number | null, copied = false, kind = 'pier') => ({
    ...{ frames, bytes, copied, kind },
  })

  it('are taken for what those of their kind are, and others for all together', () => {
    const gap = (bytes: number | null) => chunk(100, bytes, false, 'gap')
    const known = [chunk(100, 1000), chunk(100, 1040), gap(2), gap(2)]
    const found = estimateChunks([...known, chunk(300, null), gap(null), gap(null)])!
    expect(found.bytes).toBeCloseTo(2040 + 3060 + 8)
    expect(found.spread).toBeLessThan(0.02)
    // One of a kind that nothing is known of is guessed at, which is told.
    const guessed = estimateChunks([...known, chunk(100, null, false, 'quay')])!
    expect(guessed.bytes).toBeCloseTo(2044 + 511)
    expect(guessed.spread).toBeGreaterThan(0.2)
  })

  it('are taken for what the others are a frame, copied ones apart', () => {
    const found = estimateChunks([
      ...[chunk(100, 1000), chunk(50, null), chunk(100, 1000)],
      ...[chunk(10, 900, true), chunk(10, null, true), chunk(20, 1800, true)],
    ])
    expect(found).toEqual({ bytes: 2500 + 3600, spread: 0 })
  })

  it('say how far off that may be: less with each that is there, nothing once all are', () => {
    const bytes = [800, 1300, 900, 1100, 1000, 700, 1200, 1000]
    const spreadOf = (known: number) =>
      estimateChunks(bytes.map((own, i) => chunk(100, i < known ? own : null)))!.spread
    expect(spreadOf(1)).toBe(1)
    const spreads = [2, 4, 6, 7].map(spreadOf)
    expect(spreads).toEqual([...spreads].sort((a, b) => b - a))
    // Two of eight: 8² · (1 − 2/8) · 125000 / 2 is a variance of 3,000,000 about 8,400.
    expect(spreads[0]).toBeCloseTo(Math.sqrt(3_000_000) / 8400, 9)
    expect(estimateChunks(bytes.map((own) => chunk(100, own)))).toEqual({ bytes: 8000, spread: 0 })
  })

  it('say nothing where none is there', () => {
    expect(estimateChunks([chunk(100, null), chunk(10, 900, true)])).toBeNull()
    expect(estimateChunks([])).toEqual({ bytes: 0, spread: 0 })
  })
})

describe('pictures and sound made beside each other', () => {
  it('take longer than the longer of them, and less than one after the other', () => {
    expect(besideEachOther(100, 10, 2)).toBeCloseTo(106)
    expect(besideEachOther(100, 10, 12)).toBeCloseTo(101)
    expect(besideEachOther(1, 10, 8)).toBe(10)
  })

  it('wait for each other on a single processor', () => {
    expect(besideEachOther(100, 10, 1)).toBe(110)
    expect(besideEachOther(0, 10, 1)).toBe(10)
  })
})

describe('what a render would come to', () => {
  let project: Project
  const settings: RenderSettings = {
    ...{ width: 320, height: 180, rate: { num: 25, den: 1 }, quality: 'good', range: null, sound: true },
  }

  /** A reel of forty seconds, quiet and restless ones in turn. */
  beforeAll(async () => {
    const { id, tracks } = await bench.project()
    const { id: assetId } = await bench.upload(id, (path) =>
      execFileSync('ffmpeg', [
        ...'-v error -f lavfi -i testsrc2=s=320x180:r=25:d=40 -f lavfi -i color=gray:s=320x180:r=25:d=40'.split(' '),
        ...['-filter_complex', "[1]noise=alls=30:allf=t:enable='lt(mod(t,13),6)'[n];[0][n]blend=all_mode=average"],
        ...'-c:v libx264 -preset ultrafast -crf 12 -g 50 -pix_fmt yuv420p -colorspace bt709 -f mp4'.split(' '),
        path,
      ]),
    )
    await probeAsset(worker(), { id: assetId, attempt: 0 })
    const trackId = Object.values(tracks).find(({ kind }) => kind === 'picture')!.id
    const base = { clipId: randomUUID(), trackId, assetId, stream: null, link: null }
    const command = {
      ...{ type: 'place', mode: 'free' },
      pieces: [{ ...base, start: 0, length: 40 * SECOND, source: 0 }],
    } as unknown as Command
    await worker().log.append(id, 'w', [{ id: randomUUID(), command }])
    project = (await worker().log.read(id)).project
  })

  async function ask(change: Partial<RenderSettings> = {}, document = project): Promise<string> {
    const id = randomUUID()
    const row = { id, projectId: project.id, reelId: reelsOf(project)[0]!.id, document }
    await db.insert(estimates).values({ ...row, settings: { ...settings, ...change } })
    return id
  }
  /** Has it worked out while somebody asks again and again, as the page does. */
  async function answered(change: Partial<RenderSettings> = {}, document = project) {
    const id = await ask(change, document)
    const asking = setInterval(
      () =>
        void db
          .update(estimates)
          .set({ wantedAt: sql`now()` })
          .where(eq(estimates.id, id))
          .then(),
      500,
    )
    await runEstimate(worker(), { id, attempt: 0 }).finally(() => clearInterval(asking))
    return (await rowOf(id))!
  }
  const rowOf = async (id: string) => (await db.select().from(estimates).where(eq(estimates.id, id)))[0]
  const chunksThere = () => (existsSync(storage.path('chunks')) ? readdirSync(storage.path('chunks')).length : 0)

  it('is told by some of its parts, which the render then finds made', async () => {
    const { found, message, endedAt } = await answered()
    expect([message, endedAt]).toEqual([null, expect.any(Date)])
    expect(found!.made).toBeGreaterThanOrEqual(4)
    expect(found!.made).toBeLessThanOrEqual(found!.chunks)
    const render = {
      projectId: project.id,
      reelId: reelsOf(project)[0]!.id,
      name: 'Boats',
      document: project,
      settings,
    }
    const own = randomUUID()
    await db.insert(renders).values({ ...render, id: own, place: 1, state: 'waiting', heartbeatAt: new Date() })
    await runRender(worker())
    const [row] = await db.select().from(renders).where(eq(renders.id, own))
    expect(row!.report!.reused).toBe(found!.made)
    expect(Math.abs(found!.bytes / row!.report!.bytes - 1)).toBeLessThan(0.25)
  })

  it('needs nothing to be made where all is there, and is told of sound alone', async () => {
    const { found } = await answered()
    expect([found!.made, found!.spread]).toEqual([found!.chunks, 0])
    const { found: wav } = await answered({ format: 'wav' })
    expect(wav).toMatchObject({ chunks: 0, spread: 0 })
    // 40 s of stereo in 24 bits.
    expect(wav!.bytes / (40 * 48_000 * 6)).toBeCloseTo(1, 2)
  })

  it('is told of shots that are kept as they are coded, and of pictures in a ZIP', async () => {
    const { found: kept, message } = await answered({ streamCopy: true })
    expect(message).toBeNull()
    expect(kept!.seconds).toBeGreaterThan(0)
    // What the film itself holds, and its sound beside it.
    const [film] = await db.select().from(assets)
    expect(kept!.bytes).toBeGreaterThan(0.5 * film!.size)
    const range = { from: 0, to: 10 * SECOND }
    expect(await answered({ format: 'jpeg-frames', sound: false, range })).toMatchObject({ message: null })
  })

  it('is left alone once nobody asks for it any more, or it is gone', async () => {
    const before = chunksThere()
    const id = await ask({ quality: 'best' })
    await db
      .update(estimates)
      .set({ wantedAt: sql`now() - interval '20 seconds'` })
      .where(eq(estimates.id, id))
    await runEstimate(worker(), { id, attempt: 0 })
    expect(await rowOf(id)).toMatchObject({ found: null, message: null, endedAt: null })
    await runEstimate(worker(), { id: randomUUID(), attempt: 0 })
    expect(chunksThere()).toBe(before)
  })

  it('says why there is none', async () => {
    const row = await answered({}, { ...project, clips: {} })
    expect(row).toMatchObject({ found: null, message: expect.stringContaining('nothing in this reel') })
  })
})
