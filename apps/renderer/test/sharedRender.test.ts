import { execFileSync, spawn, type ChildProcess } from 'node:child_process'
import { randomUUID } from 'node:crypto'
import { join } from 'node:path'
import { afterAll, afterEach, beforeAll, describe, expect, it, vi } from 'vitest'
import { eq } from 'drizzle-orm'
import { ProjectLog, renders, chunksOf, shareChunks, takeChunk, writeChunk, type RenderSettings } from '@dusk/store'
import { createProject, reelsOf } from '@dusk/timeline'
import { renderPath } from '../src/jobs/render'
import { chooseChunk } from '../src/render/chunkChoice'
import { renderReel } from '../src/render/renderReel'
import { openWorkBench } from './workBench'

const bench = await openWorkBench('shared')
const { connection, queue, storage, url, dir } = bench
const SECOND = 705_600_000
const RATE = { num: 25, den: 1 }
const settings: RenderSettings = {
  ...{ width: 320, height: 180, rate: RATE, quality: 'draft' as const, range: null, sound: false },
}
const workers: ChildProcess[] = []
afterEach(() => workers.splice(0).forEach((child) => child.kill('SIGKILL')))
afterAll(() => bench.close())

/** A worker as it runs on a machine. */
function startWorker(): ChildProcess {
  const child = spawn('node', ['apps/renderer/build/main.mjs'], {
    cwd: join(import.meta.dirname, '../../..'),
    env: { ...process.env, DATABASE_URL: url, DUSK_MEDIA: storage.root },
    stdio: 'ignore',
  })
  workers.push(child)
  return child
}

/** A reel of slowly drawn pictures: sparks that change with each frame, in shots of four seconds. */
async function film(seconds: number) {
  const project = createProject('Shared', { width: 640, height: 360, rate: RATE })
  const log = new ProjectLog(connection)
  await log.create(project)
  const trackId = Object.values(project.tracks).find(({ kind }) => kind === 'picture')!.id
  const generated = Array.from({ length: seconds / 4 }, (_, i) => ({
    ...{ kind: 'generator' as const, generator: 'sparks', settings: {}, clipId: randomUUID(), trackId },
    ...{ start: i * 4 * SECOND, length: 4 * SECOND },
  }))
  const { outcomes } = await log.append(project.id, 'w', [
    { id: randomUUID(), command: { type: 'addGenerated', mode: 'free', generated } as never },
  ])
  expect(outcomes.map((outcome) => 'refused' in outcome && outcome.refused)).toEqual([false])
  return (await log.read(project.id)).project
}

async function ask(project: Awaited<ReturnType<typeof film>>): Promise<string> {
  const id = randomUUID()
  const row = {
    id,
    projectId: project.id,
    reelId: reelsOf(project)[0]!.id,
    name: 'Shared',
    settings,
    document: project,
  }
  await connection.db.insert(renders).values({ ...row, state: 'waiting', heartbeatAt: new Date() })
  await queue.send('render', { id, attempt: 0 })
  return id
}

const frames = (path: string) => execFileSync('ffmpeg', ['-v', 'error', '-i', path, '-f', 'framemd5', '-']).toString()
const ended = (id: string) =>
  vi.waitFor(
    async () => {
      const [row] = await connection.db.select().from(renders).where(eq(renders.id, id))
      expect([row!.state, row!.message]).toEqual(['ready', null])
      return row!
    },
    { timeout: 180_000, interval: 300 },
  )

describe('a render that several workers make', () => {
  let project: Awaited<ReturnType<typeof film>>
  let alone: string
  beforeAll(async () => {
    project = await film(36)
    const out = join(dir, 'alone.mp4')
    await renderReel({ project, reelId: reelsOf(project)[0]!.id, settings, book: new Map(), storage, out })
    alone = frames(out)
  })
  const forget = () => execFileSync('rm', ['-rf', storage.path('chunks')])

  it('is the same, frame for frame, and each of them has a part in it', async () => {
    forget()
    for (let i = 0; i < 3; i++) startWorker()
    const id = await ask(project)
    await ended(id)
    expect(frames(renderPath(storage, id, undefined))).toBe(alone)
    const chunks = await chunksOf(connection.db, id)
    expect(chunks.every((chunk) => chunk.state === 'ready' && chunk.drawn === chunk.end - chunk.first)).toBe(true)
    expect(new Set(chunks.map((chunk) => chunk.worker)).size).toBeGreaterThan(1)
  })

  it('is finished when those that help, and the one that puts it together, are killed', async () => {
    forget()
    for (let i = 0; i < 3; i++) startWorker()
    const id = await ask(project)
    for (let killed = 0; killed < 2; killed++) {
      await vi.waitFor(
        async () => {
          const chunks = await chunksOf(connection.db, id)
          expect(chunks.filter((chunk) => chunk.state === 'ready').length).toBeGreaterThan(killed * 2)
          const busy = chunks.find((chunk) => chunk.state === 'working' && !chunk.silent)
          expect(busy).toBeDefined()
          const pid = Number(busy!.worker!.split(' ').at(-1))
          const child = workers.find((one) => one.pid === pid && one.exitCode === null)
          expect(child).toBeDefined()
          child!.kill('SIGKILL')
        },
        { timeout: 60_000, interval: 100 },
      )
    }
    await ended(id)
    expect(frames(renderPath(storage, id, undefined))).toBe(alone)
  })
})

describe('chunks that are shared out', () => {
  const planned = (keys: string[], kept: boolean[] = []) =>
    keys.map((key, n) => ({ n, key, first: n * 100, end: n * 100 + 100, kept: kept[n] ?? false }))

  it('go to one worker each, while the render goes on, and back when it falls silent', async () => {
    const project = createProject('Rows', { width: 640, height: 360, rate: RATE })
    await new ProjectLog(connection).create(project)
    const id = randomUUID()
    const row = {
      id,
      projectId: project.id,
      reelId: reelsOf(project)[0]!.id,
      name: 'Rows',
      settings,
      document: project,
    }
    await connection.db.insert(renders).values({ ...row, state: 'working', heartbeatAt: new Date() })
    const { db, sql } = connection
    await shareChunks(db, id, planned(['a', 'b', 'c'], [false, true]))
    const take = (n: number, worker: string) => takeChunk(db, id, n, worker)
    const [first, second] = await Promise.all([take(0, 'one'), take(0, 'two')])
    expect([first, second].filter(Boolean)).toHaveLength(1)
    expect(await take(1, 'one')).toBeNull()
    const mine = (first ?? second)!
    await sql`update render_chunks set heartbeat_at = now() - interval '1 minute' where render_id = ${id} and n = 0`
    const next = (await take(0, 'three'))!
    expect(next.attempt).toBe(mine.attempt + 1)
    // The one that was silent writes nothing any more.
    expect(await writeChunk(db, id, mine, { state: 'ready' })).toBe(false)
    expect(await writeChunk(db, id, next, { state: 'ready', drawn: 100 })).toBe(true)
    // Another attempt at the render keeps what was made, makes what is lost, and forgets what changed.
    await shareChunks(db, id, planned(['a', 'b', 'x'], [true, false]))
    expect((await chunksOf(db, id)).map(({ key, state }) => `${key} ${state}`)).toEqual([
      'a ready',
      'b waiting',
      'x waiting',
    ])
    await db.update(renders).set({ state: 'cancelled' }).where(eq(renders.id, id))
    expect(await take(1, 'one')).toBeNull()
  })

  it('are chosen so that decoders go on, and two never come to the same', () => {
    const row = (states: string) => [...states].map((state, n) => ({ n, free: state === '.', busy: state === 'b' }))
    expect(chooseChunk(row('......'), null)).toBe(0)
    expect(chooseChunk(row('b.....'), null)).toBe(3)
    expect(chooseChunk(row('b.....'), 0)).toBe(1)
    expect(chooseChunk(row('xx.x...'), null)).toBe(4)
    expect(chooseChunk(row('xbx'), 1)).toBeNull()
  })
})
