import { execFileSync } from 'node:child_process'
import { randomUUID } from 'node:crypto'
import { mkdirSync, readFileSync } from 'node:fs'
import type { Server } from 'node:http'
import type { AddressInfo } from 'node:net'
import { dirname, join } from 'node:path'
import { afterAll, beforeAll, beforeEach, describe, expect, it, vi } from 'vitest'
import { eq } from 'drizzle-orm'
import { posts, renders, takeUpAgain, type RenderSettings } from '@dusk/store'
import { reelsOf } from '@dusk/timeline'
import { openBoard } from '../../board/src/board'
import { postFilm } from '../src/jobs/post'
import { renderPath } from '../src/jobs/render'
import { openWorkBench } from './workBench'

const KEY = 'b'.repeat(40)
const bench = await openWorkBench('post')
const { connection, storage, dir } = bench
const { db } = connection
const settings: RenderSettings = {
  ...{ width: 320, height: 180, rate: { num: 25, den: 1 }, quality: 'draft' as const, range: null, sound: true },
}
const words = { title: 'Lantern night', description: '', tags: [], chapters: [], captions: null }

let board: Server
let origin: string
let renderId: string
let bytes: number

beforeAll(async () => {
  board = await openBoard({ folder: join(dir, 'board'), key: KEY })
  await new Promise<void>((resolve) => board.listen(0, '127.0.0.1', resolve))
  origin = `http://127.0.0.1:${(board.address() as AddressInfo).port}`
  const project = await bench.project()
  renderId = randomUUID()
  const path = renderPath(storage, renderId, undefined)
  mkdirSync(dirname(path), { recursive: true })
  // Large enough to be stopped on its way to a slow place.
  const noisy = 'testsrc2=s=1280x720:r=25:d=1,noise=alls=60:allf=t'
  const args = `-v error -f lavfi -i ${noisy} -c:v libx264 -preset ultrafast -crf 30 -pix_fmt yuv420p`
  execFileSync('ffmpeg', [...args.split(' '), path])
  bytes = readFileSync(path).length
  const row = { id: renderId, projectId: project.id, reelId: reelsOf(project)[0]!.id, name: 'Night', settings }
  await db.insert(renders).values({ ...row, document: project, state: 'ready' })
})
beforeEach(async () => {
  vi.stubEnv('DUSK_BOARD', origin)
  vi.stubEnv('DUSK_BOARD_KEY', KEY)
  await behave('well')
})
afterAll(async () => {
  board.closeAllConnections()
  board.close()
  await bench.close()
})

const behave = (mood: string) =>
  fetch(`${origin}/conduct`, {
    method: 'POST',
    redirect: 'manual',
    headers: { origin, 'content-type': 'application/x-www-form-urlencoded' },
    body: new URLSearchParams({ mood, megabytes: '100', minutes: '10', shape: 'any' }),
  })

async function post(thumbnail: { at: number } | { kind: string } | null = null, picture: Buffer | null = null) {
  const id = randomUUID()
  const file = { name: 'night.mp4', kind: 'video/mp4', bytes, seconds: 1, width: 320, height: 180 }
  const row = { id, renderId, place: 'The practice board', words, file, thumbnail, picture }
  await db.insert(posts).values({ ...row, state: 'waiting', heartbeatAt: new Date() })
  return id
}
const rowOf = async (id: string) => (await db.select().from(posts).where(eq(posts.id, id)))[0]!

describe('a film that is posted', () => {
  it('arrives byte for byte, with a picture out of it', async () => {
    const id = await post({ at: 0.5 })
    await postFilm(bench.worker(), { id, attempt: 0 })
    const row = await rowOf(id)
    expect(row).toMatchObject({ state: 'ready', message: null, sent: bytes })
    const there = Buffer.from(await (await fetch(`${row.page}/film`)).arrayBuffer())
    expect(there.equals(readFileSync(renderPath(storage, renderId, undefined)))).toBe(true)
    const picture = await fetch(`${row.page}/thumbnail`)
    expect(picture.headers.get('content-type')).toBe('image/jpeg')
    expect((await picture.arrayBuffer()).byteLength).toBeGreaterThan(1000)
  })

  it('arrives with a picture of one’s own', async () => {
    const id = await post({ kind: 'image/png' }, Buffer.from('a picture'))
    await postFilm(bench.worker(), { id, attempt: 0 })
    expect(await (await fetch(`${(await rowOf(id)).page}/thumbnail`)).text()).toBe('a picture')
  })

  it('waits in words when the place breaks off, and goes on from there by itself', async () => {
    await behave('breaks')
    const id = await post({ at: 0.2 })
    await postFilm(bench.worker(), { id, attempt: 0 })
    const failed = await rowOf(id)
    expect(failed.state).toBe('working')
    expect(failed.message).toMatch(/practice board (broke off half way|was lost)\. It goes on by itself/)
    expect(failed.sent).toBe(Math.ceil(bytes / 2))
    await behave('well')
    // Nobody asks for it: it is found by whoever looks for work that has fallen silent.
    await db
      .update(posts)
      .set({ heartbeatAt: new Date(0) })
      .where(eq(posts.id, id))
    expect(await takeUpAgain(db, bench.worker().queue)).toBe(1)
    await postFilm(bench.worker(), { id, attempt: 1 })
    const row = await rowOf(id)
    expect(row).toMatchObject({ state: 'ready', sent: bytes })
    // The same post there, not another one.
    expect(row.remote!.id).toBe(failed.remote!.id)
    const there = await (await fetch(`${row.page}/film`)).arrayBuffer()
    expect(there.byteLength).toBe(bytes)
    // Its picture comes with whoever ends it.
    expect((await fetch(`${row.page}/thumbnail`)).status).toBe(200)
  })

  it('says what the place refuses, and that it does not answer', async () => {
    await behave('refuses')
    const refused = await post()
    await postFilm(bench.worker(), { id: refused, attempt: 0 })
    expect((await rowOf(refused)).message).toBe('The practice board refuses whatever comes just now.')
    vi.stubEnv('DUSK_BOARD', 'http://127.0.0.1:9')
    const unheard = await post()
    await postFilm(bench.worker(), { id: unheard, attempt: 0 })
    expect(await rowOf(unheard)).toMatchObject({
      state: 'working',
      message: expect.stringMatching(/^The practice board does not answer/) as string,
    })
    await db.update(posts).set({ state: 'cancelled' }).where(eq(posts.id, unheard))
  })

  it('has a picture out of the film where a time beyond its end was asked for', async () => {
    const id = await post({ at: 5000 })
    await postFilm(bench.worker(), { id, attempt: 0 })
    const row = await rowOf(id)
    expect(row.state).toBe('ready')
    expect((await (await fetch(`${row.page}/thumbnail`)).arrayBuffer()).byteLength).toBeGreaterThan(1000)
  })

  it('begins anew where the place has forgotten what was begun', async () => {
    const id = await post()
    const gone = randomUUID()
    await db
      .update(posts)
      .set({ remote: { id: gone, upload: `${origin}/uploads/${gone}` } })
      .where(eq(posts.id, id))
    await postFilm(bench.worker(), { id, attempt: 0 })
    const row = await rowOf(id)
    expect(row.state).toBe('ready')
    expect(row.remote!.id).not.toBe(gone)
  })

  it('is stopped soon, and goes to another worker when its own is told to stop', async () => {
    await behave('slow')
    const id = await post()
    const working = postFilm(bench.worker(), { id, attempt: 0 })
    await vi.waitFor(async () => expect((await rowOf(id)).remote?.upload).toBeTruthy(), { interval: 20 })
    await db.update(posts).set({ state: 'cancelled' }).where(eq(posts.id, id))
    await working
    expect((await rowOf(id)).state).toBe('cancelled')

    const other = await post()
    const worker = bench.worker()
    const stopped = postFilm(worker, { id: other, attempt: 0 })
    await vi.waitFor(async () => expect((await rowOf(other)).remote?.upload).toBeTruthy(), { interval: 20 })
    worker.stop()
    await stopped
    const row = await rowOf(other)
    expect([row.state, row.heartbeatAt?.getTime()]).toEqual(['working', 0])
  })
})
