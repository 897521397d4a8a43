import { execFileSync, spawn, type ChildProcess } from 'node:child_process'
import { randomUUID } from 'node:crypto'
import { existsSync, mkdirSync } from 'node:fs'
import { dirname, join } from 'node:path'
import { afterAll, expect, it, vi } from 'vitest'
import { eq } from 'drizzle-orm'
import { FolderStorage, openStorage, shareUpload, type BucketStorage } from '@dusk/media'
import { artefacts, assets, chunksOf, ProjectLog, renders, type RenderSettings } from '@dusk/store'
import { reelsOf, type Command } from '@dusk/timeline'
import { bucketForTests } from '../../../packages/media/test/bucketStand'
import { renderPath } from '../src/jobs/render'
import { sourceBook } from '../src/jobs/sourceBook'
import { renderReel } from '../src/render/renderReel'
import { openWorkBench } from './workBench'

const bench = await openWorkBench('bucket')
const { connection, queue, url, dir } = bench
const { db } = connection
const SECOND = 705_600_000
const settings: RenderSettings = {
  ...{ width: 320, height: 180, rate: { num: 25, den: 1 }, quality: 'draft' as const, range: null, sound: true },
}
const workers: ChildProcess[] = []
// Registered first, closed last: what is asked for after it is ended before it.
const stand = bucketForTests()
afterAll(async () => {
  workers.forEach((child) => child.kill('SIGKILL'))
  await bench.close()
})

const folderOf = (machine: string) => join(dir, machine)
const storageOf = (machine: string) =>
  openStorage({ folder: folderOf(machine), bucket: stand().address }) as BucketStorage

/** A worker on a machine of its own: all it has in common with others is the database and the bucket. */
function startWorker(machine: string): void {
  const child = spawn('node', ['apps/renderer/build/main.mjs'], {
    cwd: join(import.meta.dirname, '../../..'),
    env: { ...process.env, DATABASE_URL: url, DUSK_MEDIA: folderOf(machine), DUSK_BUCKET: stand().address },
    stdio: 'inherit',
  })
  workers.push(child)
}

/** A file as the studio has it after its upload, on its own machine and in the bucket. */
async function upload(projectId: string): Promise<string> {
  const studio = storageOf('studio')
  const id = randomUUID()
  const path = studio.path('uploads', id)
  mkdirSync(dirname(path), { recursive: true })
  execFileSync('ffmpeg', [
    ...'-v error -f lavfi -i testsrc2=s=320x180:r=30000/1001:d=20 -f lavfi -i sine=330:d=20'.split(' '),
    ...'-c:v libx264 -preset ultrafast -g 48 -bf 2 -pix_fmt yuv420p -c:a aac -f mp4'.split(' '),
    path,
  ])
  await shareUpload(studio, path)
  const row = { id, projectId, fileName: 'quay.mp4', size: 1, windowId: 'w', uploadPath: studio.nameOf(path) }
  await db.insert(assets).values({ ...row, state: 'waiting', heartbeatAt: new Date() })
  await queue.send('probe', { id, attempt: 0 })
  return id
}

const patient = { timeout: 200_000, interval: 300 }
const frames = (path: string) => execFileSync('ffmpeg', ['-v', 'error', '-i', path, '-f', 'framemd5', '-']).toString()

it('reads in and renders on three machines that share a database and a bucket, as one would', async () => {
  const { id: projectId } = await bench.project()
  for (const machine of ['north', 'south', 'quay']) startWorker(machine)
  const asset = await upload(projectId)
  await vi.waitFor(async () => {
    const [row] = await db.select().from(assets).where(eq(assets.id, asset))
    expect([row!.state, row!.message]).toEqual(['ready', null])
    const made = await db.select().from(artefacts).where(eq(artefacts.source, row!.hash!))
    expect(made.map(({ kind, state }) => `${kind} ${state}`).sort()).toEqual([
      ...['glance ready', 'glance ready', 'proxy ready', 'sound ready'],
    ])
  }, patient)

  const log = new ProjectLog(connection)
  const { project: empty } = await log.read(projectId)
  const track = (name: string) => Object.values(empty.tracks).find((entry) => entry.name === name)!.id
  const shots = Array.from({ length: 6 }, (_, i) => {
    const link = randomUUID()
    const place = { assetId: asset, start: i * 3 * SECOND, length: 3 * SECOND, source: (15 - i * 3) * SECOND, link }
    return [
      { ...place, clipId: randomUUID(), trackId: track('Picture 1'), stream: null },
      { ...place, clipId: randomUUID(), trackId: track('Voice'), stream: 0 },
    ]
  }).flat()
  const command = { type: 'place', mode: 'free', pieces: shots } as Command
  const { outcomes } = await log.append(projectId, 'w', [{ id: randomUUID(), command }])
  expect(outcomes.map((outcome) => 'refused' in outcome && outcome.refused)).toEqual([false])
  const { project } = await log.read(projectId)
  const reelId = reelsOf(project)[0]!.id
  const id = randomUUID()
  const row = { id, projectId, reelId, name: 'Bucket', settings, document: project }
  await db.insert(renders).values({ ...row, state: 'waiting', heartbeatAt: new Date() })
  await queue.send('render', { id, attempt: 0 })
  await vi.waitFor(async () => {
    const [row] = await db.select().from(renders).where(eq(renders.id, id))
    expect([row!.state, row!.message]).toEqual(['ready', null])
  }, patient)
  expect(new Set((await chunksOf(db, id)).map((chunk) => chunk.worker)).size).toBeGreaterThan(1)

  // A machine that had no part in it finds the film, and makes the same from the same sources.
  const far = storageOf('far')
  const film = renderPath(far, id, undefined)
  expect(existsSync(film)).toBe(false)
  expect(await far.fetch(film)).toBe(true)
  const alone = new FolderStorage(join(dir, 'alone'))
  const book = await sourceBook(connection, project)
  const { hash } = book.get(asset)!
  const [sound] = (await db.select().from(artefacts).where(eq(artefacts.source, hash))).filter(
    ({ kind }) => kind === 'sound',
  )
  for (const place of [
    (storage: FolderStorage) => storage.original(hash),
    (storage: FolderStorage) => storage.artefact(sound!.key, 'sound.pcm'),
  ]) {
    expect(await far.fetch(place(far))).toBe(true)
    mkdirSync(dirname(place(alone)), { recursive: true })
    execFileSync('cp', [place(far), place(alone)])
  }
  const out = join(dir, 'alone.mp4')
  await renderReel({ project, reelId, settings, book, storage: alone, out })
  expect(frames(film)).toBe(frames(out))
  // Work files are nobody's but their machine's, and none is left.
  expect(await far.list(far.path('uploads'), 1)).toEqual([])
})
