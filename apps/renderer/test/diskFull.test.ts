import { execFileSync, spawnSync } from 'node:child_process'
import { randomUUID } from 'node:crypto'
import { existsSync, mkdirSync, readdirSync, rmSync, statfsSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { and, eq, inArray } from 'drizzle-orm'
import { DISK_FULL, inspectFile, isDiskFull, isUndecodable, ToolError } from '@dusk/media'
import { artefacts, assets, ProjectLog, renders, takeUpAgain } from '@dusk/store'
import { reelsOf, tracksOf } from '@dusk/timeline'
import { makeArtefact } from '../src/jobs/artefact'
import { probeAsset } from '../src/jobs/probe'
import { renderPath, runRender } from '../src/jobs/render'
import { openWorkBench, type WorkBench } from './workBench'

it('tells a full disk from other faults, whoever says so', () => {
  const full = Object.assign(new Error('write'), { code: 'ENOSPC' })
  expect(isDiskFull(full)).toBe(true)
  expect(isDiskFull(Object.assign(new Error('could not extend file'), { code: '53100' }))).toBe(true)
  expect(isDiskFull(new Error('Failed query', { cause: full }))).toBe(true)
  expect(isDiskFull(new ToolError('ffmpeg', 1, 'av_interleaved_write_frame(): No space left on device\nfailed'))).toBe(
    true,
  )
  expect(isDiskFull(new ToolError('ffmpeg', 1, 'Invalid data found'))).toBe(false)
  expect(isDiskFull(Object.assign(new Error('open'), { code: 'ENOENT' }))).toBe(false)
  expect(isDiskFull('ENOSPC')).toBe(false)
})

it('tells a file that can’t be decoded from a machine that failed', () => {
  expect(isUndecodable(new ToolError('ffmpeg', 1, 'Invalid data found when processing input'))).toBe(true)
  expect(isUndecodable(new ToolError('ffmpeg', 69, ''))).toBe(true)
  for (const log of ['film.mp4: Input/output error', 'film.mp4: No such file or directory', 'No space left on device'])
    expect(isUndecodable(new ToolError('ffmpeg', 1, log)), log).toBe(false)
  expect(isUndecodable(new ToolError('ffmpeg', null, 'killed'))).toBe(false)
  expect(isUndecodable(new ToolError('ffmpeg', 127, 'not found'))).toBe(false)
  expect(isUndecodable(new Error('Invalid data found'))).toBe(false)
})

/** Bytes of the small disk, and how much of it is free when a job begins. */
const DISK = 24 * 1024 ** 2
const FREE = [0, 30_000, 200_000, 700_000]
/** A disk of its own takes an administrator to make. */
const canMount = process.env.DUSK_LONG !== undefined && process.getuid?.() === 0

describe.skipIf(!canMount)('work on a disk without room', () => {
  let bench: WorkBench
  let disk: string
  let film: string

  beforeAll(async () => {
    bench = await openWorkBench('full')
    disk = join(bench.dir, 'store')
    mkdirSync(disk, { recursive: true })
    execFileSync('mount', ['-t', 'tmpfs', '-o', `size=${DISK}`, 'tmpfs', disk])
    film = join(bench.dir, 'film.mp4')
    execFileSync('ffmpeg', [
      ...'-v error -f lavfi -i testsrc2=s=640x360:r=25:d=24 -f lavfi -i sine=d=24'.split(' '),
      ...'-c:v libx264 -preset ultrafast -crf 34 -pix_fmt yuv420p -c:a aac'.split(' '),
      film,
    ])
  })
  afterAll(async () => {
    if (!bench) return
    spawnSync('umount', [disk])
    await bench.close()
  })

  const filler = () => join(disk, 'filler')
  /** Takes all room but so many bytes. */
  function fill(free: number): void {
    rmSync(filler(), { force: true })
    const { bavail, bsize } = statfsSync(disk)
    writeFileSync(filler(), Buffer.alloc(Math.max(0, bavail * bsize - free)))
  }
  const makeRoom = () => rmSync(filler(), { force: true })

  /** Does work with less and less room, then with enough, as the workers would: what gave up is taken up again. */
  async function throughNoRoom(
    work: () => Promise<unknown>,
    state: () => Promise<{ state: string; message: string | null }>,
  ) {
    let stopped = 0
    for (const free of FREE) {
      fill(free)
      await work()
      const row = await state()
      if (row.state === 'ready') continue
      stopped++
      expect(row, `${free} bytes free`).toMatchObject({ state: 'working', message: DISK_FULL })
      const scratch = join(disk, 'scratch')
      const left = existsSync(scratch) ? readdirSync(scratch).flatMap((own) => readdirSync(join(scratch, own))) : []
      expect(left, `${free} bytes free`).toEqual([])
      await silence()
    }
    makeRoom()
    await work()
    expect(await state()).toMatchObject({ state: 'ready', message: null })
    return stopped
  }

  /** As if the time had passed after which silent work is taken up again. */
  async function silence(): Promise<void> {
    const { db } = bench.connection
    for (const table of [assets, artefacts, renders])
      await db
        .update(table)
        .set({ heartbeatAt: new Date(0) })
        .where(eq(table.state, 'working'))
    await takeUpAgain(db, bench.queue)
  }

  it('waits for it, leaves nothing behind, and ends well once there is some', async () => {
    const { connection, storage, worker, project, upload, assetRow } = bench
    const { db } = connection
    const { id } = await project()
    const asset = await upload(id, (path) => execFileSync('cp', [film, path]))
    const attemptOf = async () => (await assetRow(asset.id))!.attempt
    await throughNoRoom(
      async () => probeAsset(worker(), { id: asset.id, attempt: await attemptOf() }),
      async () => (await assetRow(asset.id))!,
    )
    const { hash } = (await assetRow(asset.id))!
    const rows = await db.select().from(artefacts).where(eq(artefacts.source, hash!))
    expect(rows.map((row) => row.kind).sort()).toEqual(['glance', 'glance', 'proxy', 'sound'])
    let stopped = 0
    for (const { key } of rows) {
      const row = async () => (await db.select().from(artefacts).where(eq(artefacts.key, key)))[0]!
      stopped += await throughNoRoom(async () => {
        const { kind, attempt, state } = await row()
        if (state === 'waiting')
          await makeArtefact(worker(), { id: key, attempt }, kind === 'proxy' ? 'proxy' : 'artefact')
      }, row)
    }
    expect(stopped).toBeGreaterThan(4)

    const log = new ProjectLog(connection)
    const { project: document } = await log.read(id)
    const [reel] = reelsOf(document)
    const track = tracksOf(document, reel!.id).find(({ kind }) => kind === 'picture')!
    const piece = { clipId: randomUUID(), trackId: track.id, assetId: asset.id, stream: null, start: 0, source: 0 }
    const pieces = [{ ...piece, length: 20 * 705_600_000, link: null }]
    await log.append(id, 'w', [{ id: randomUUID(), command: { type: 'place', mode: 'free', pieces } as never }])
    const renderId = randomUUID()
    const settings = {
      width: 640,
      height: 360,
      rate: { num: 25, den: 1 },
      quality: 'good' as const,
      range: null,
      sound: false,
    }
    const { project: edited } = await log.read(id)
    await db.insert(renders).values({
      ...{ id: renderId, projectId: id, reelId: reel!.id, name: 'Full', settings, document: edited, state: 'waiting' },
      heartbeatAt: new Date(),
    } as never)
    const render = async () => (await db.select().from(renders).where(eq(renders.id, renderId)))[0]!
    expect(await throughNoRoom(() => runRender(worker()), render)).toBeGreaterThan(1)
    expect((await inspectFile(renderPath(storage, renderId, undefined))).picture!.frames).toBe(500)
    const open = and(inArray(artefacts.state, ['waiting', 'working']))
    expect(await db.select().from(artefacts).where(open)).toEqual([])
  })
})
