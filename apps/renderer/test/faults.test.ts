import { execFileSync } from 'node:child_process'
import { appendFileSync, existsSync, mkdirSync, statSync } from 'node:fs'
import { dirname, join } from 'node:path'
import { afterAll, afterEach, beforeAll, describe, expect, it, vi } from 'vitest'
import { folderSize, FolderStorage } from '@dusk/media'
import type { RenderSettings } from '@dusk/store'
import { assetFacts, createProject, frameToTicks, reelsOf, tracksOf, type Project } from '@dusk/timeline'
import { middleLumas } from './decoded'
import { perform, testStore } from './store'

const RATE = { num: 30_000, den: 1001 }
const { dir, storage, book, enter, renderTo, remove } = testStore('faults')
const SOURCES = {
  /** Four seconds at 240 frames a second, of an odd size. */
  quick: { rate: { num: 240, den: 1 }, frames: 960, size: [129, 73] },
  /** Ten hours, a frame a second. */
  endless: { rate: { num: 1, den: 1 }, frames: 36_000, size: [32, 18] },
  plain: { rate: RATE, frames: 300, size: [128, 72] },
} as const
type Source = keyof typeof SOURCES
const ids = { quick: crypto.randomUUID(), endless: crypto.randomUUID(), plain: crypto.randomUUID() }
let base: Project
afterAll(remove)
afterEach(() => vi.unstubAllEnvs())

/** Luma of a frame of any of the sources. */
const lumaOf = (frame: number) => 16 + ((frame * 2) % 200)

beforeAll(async () => {
  base = createProject('Faults', { width: 128, height: 72, rate: RATE })
  for (const [name, { rate, frames, size }] of Object.entries(SOURCES)) {
    const path = join(dir, `${name}.mp4`)
    const [width, height] = size
    execFileSync('ffmpeg', [
      ...['-v', 'error', '-f', 'lavfi'],
      ...['-i', `nullsrc=s=${width}x${height}:r=${rate.num}/${rate.den},geq=lum='16+mod(N*2,200)':cb=128:cr=128`],
      ...`-frames:v ${frames} -c:v libx264 -preset ultrafast -qp 6 -bf 2 -g 250`.split(' '),
      // Odd sizes need a chroma sample for every pixel.
      ...['-pix_fmt', width % 2 ? 'yuv444p' : 'yuv420p', '-colorspace', 'bt709', path],
    ])
    base = await enter(base, ids[name as Source], name, path)
  }
})

let made = 0
const clipId = () => `00000000-0000-4000-8000-${(++made).toString().padStart(12, '0')}`
/** Pieces of a source one after the other, each `length` output frames from a source frame on. */
function put(source: Source, from: readonly number[], length: number): Project {
  const trackId = tracksOf(base, reelsOf(base)[0]!.id).find(({ kind }) => kind === 'picture')!.id
  const pieces = from.map((frame, i) => ({
    ...{ clipId: clipId(), trackId, assetId: ids[source], stream: null, link: null },
    ...{ start: frameToTicks(i * length, RATE), length: frameToTicks(length, RATE) },
    source: frameToTicks(frame, SOURCES[source].rate),
  }))
  let project = base
  // No command takes more at once.
  for (let i = 0; i < pieces.length; i += 2000)
    project = perform(project, { type: 'place', mode: 'free', pieces: pieces.slice(i, i + 2000) })
  return project
}

const render = (project: Project, change: Partial<RenderSettings> = {}, own = storage) =>
  renderTo(`out-${++made}.mp4`, project, { width: 128, height: 72, rate: RATE, quality: 'best', ...change }, own)

function expectFrames(path: string, frames: readonly number[]): void {
  const found = middleLumas(path, 128, 72)
  expect(found).toHaveLength(frames.length)
  found.forEach((luma, n) => expect(Math.abs(luma - lumaOf(frames[n]!)), `frame ${n}`).toBeLessThanOrEqual(3))
}
const span = (count: number) => Array.from({ length: count }, (_, n) => n)

describe('sources of all kinds', () => {
  it('may have 240 frames a second and an odd size', async () => {
    const { out } = await render(put('quick', [101], 90))
    // What shows at the start of each output frame.
    expectFrames(
      out,
      span(90).map((n) => 101 + Math.floor((n * 240 * 1001) / 30_000 + 1e-6)),
    )
  })

  it('may be ten hours long, and be used near their end', async () => {
    const { out } = await render(put('endless', [35_990], 240))
    expectFrames(
      out,
      span(240).map((n) => 35_990 + Math.floor((n * 1001) / 30_000 + 1e-6)),
    )
  })

  it('may be in five thousand clips', async () => {
    const from = span(5000).map((i) => (i * 3) % 290)
    const project = put('plain', from, 2)
    const range = { from: frameToTicks(4990, RATE), to: frameToTicks(5050, RATE) }
    const { out } = await render(project, { range })
    expectFrames(
      out,
      span(60).map((n) => from[(4990 + n) >> 1]! + (n % 2)),
    )
    // All of it, where there is time for that.
    if (process.env.DUSK_LONG)
      expectFrames(
        (await render(project)).out,
        span(10_000).map((n) => from[n >> 1]! + (n % 2)),
      )
  })
})

describe('frames that can’t be decoded', () => {
  /** Thirty frames of a source that says it goes on for longer than it does, from frame `from` on. */
  async function beyond(from: number): Promise<number[]> {
    const { hash, metadata } = book.get(ids.plain)!
    const id = crypto.randomUUID()
    const length = frameToTicks(600, RATE)
    const longer = { ...metadata, length, table: { kind: 'constant' as const, rate: RATE, count: 600 } }
    book.set(id, { hash, metadata: longer })
    let project = perform(base, { type: 'addAsset', asset: assetFacts(id, 'longer', longer) })
    const trackId = tracksOf(project, reelsOf(project)[0]!.id).find(({ kind }) => kind === 'picture')!.id
    const piece = { clipId: clipId(), trackId, assetId: id, stream: null, link: null, start: 0 }
    const [span, source] = [frameToTicks(30, RATE), frameToTicks(from, RATE)]
    project = perform(project, { type: 'place', mode: 'free', pieces: [{ ...piece, length: span, source }] })
    const { out } = await render(project)
    book.delete(id)
    return middleLumas(out, 128, 72)
  }

  it('are the last one that could be, or the reel’s ground where there is none', async () => {
    const ending = await beyond(290)
    expect(ending).toHaveLength(30)
    ending.forEach((luma, n) =>
      expect(Math.abs(luma - lumaOf(Math.min(290 + n, 299))), `frame ${n}`).toBeLessThanOrEqual(3),
    )
    expect(await beyond(400)).toEqual(Array(30).fill(16))
  })
})

describe('what goes wrong', () => {
  /** Lets this process find an ffmpeg that fails in some way. */
  function withFault(fault: string): void {
    vi.stubEnv('PATH', `${join(import.meta.dirname, 'faulty')}:${process.env.PATH}`)
    vi.stubEnv('DUSK_FAULT', fault)
  }
  /** What a render says that can't be made; nothing of it is left. */
  async function refusal(project: Project, change: Partial<RenderSettings> = {}): Promise<Error> {
    const own = new FolderStorage(join(dir, `store-${++made}`))
    for (const { hash } of book.values()) {
      mkdirSync(dirname(own.original(hash)), { recursive: true })
      execFileSync('cp', [storage.original(hash), own.original(hash)])
    }
    const error = await render(project, change, own).then(
      () => new Error('it was made'),
      (error: Error) => error,
    )
    expect(existsSync(join(dir, `out-${made}.mp4`))).toBe(false)
    expect((await folderSize(own.path('scratch'))).files).toBe(0)
    return error
  }

  it.each(['libsvtav1', 'libx265', 'libvpx-vp9'])('is told where ffmpeg has no %s', async (encoder) => {
    withFault(`lacks ${encoder}`)
    const format = { libsvtav1: 'mp4-av1', libx265: 'mp4-h265', 'libvpx-vp9': 'webm-vp9' }[encoder] as 'mp4-av1'
    const error = await refusal(put('plain', [0], 60), { format })
    expect(error).toMatchObject({ name: 'RenderFailed' })
    expect(error.message).toContain(`has no encoder ${encoder}. Choose another kind of file`)
  })

  it('is told in the encoder’s own words where it stops, also on several threads', async () => {
    withFault('stops')
    const error = await refusal(put('plain', [0, 150], 140), { width: 256, height: 144 })
    expect(error.message).toContain('x264 [error]: malloc')
  })

  it('is told where a stored file was changed', async () => {
    const project = put('plain', [0], 30)
    const entry = book.get(ids.plain)!
    const path = storage.original(entry.hash)
    entry.size = statSync(path).size
    expect((await render(project, { width: 64, height: 36 })).report.frames).toBe(30)
    appendFileSync(path, 'more')
    await expect(render(project)).rejects.toThrow('The file of plain in the data folder is not what was added')
  })
})
