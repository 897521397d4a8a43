import { execFileSync } from 'node:child_process'
import { cpSync, existsSync, readdirSync, statSync, truncateSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { afterAll, beforeAll, describe, expect, it, vi } from 'vitest'
import { Compositor, FilmPlanes } from '@dusk/compositor'
import { AS_REEL, type DeliveryId } from '@dusk/interchange'
import { FolderStorage, folderSize, inspectFile } from '@dusk/media'
import type { RenderReport, RenderSettings } from '@dusk/store'
import { createProject, frameToTicks, reelsOf, tracksOf, type Project } from '@dusk/timeline'
import { reelFor, reportWords, settingsFor } from '../src/cli'
import { renderReel } from '../src/render/renderReel'
import { soundPath } from '../src/render/soundFiles'
import { middleLumas } from './decoded'
import { perform, testStore } from './store'

const RATE = { num: 25, den: 1 }
const { dir, storage, book, enter, renderTo, remove } = testStore('render')
const SOURCE = crypto.randomUUID()
let base: Project
let pieces = 0
afterAll(remove)

beforeAll(async () => {
  // Frame n has luma 16 + 2n; a steady tone beside it.
  const path = join(dir, 'counting.mp4')
  execFileSync('ffmpeg', [
    '-v',
    'error',
    '-f',
    'lavfi',
    '-i',
    "nullsrc=s=128x72:r=25,geq=lum='16+N*2':cb=128:cr=128",
    '-f',
    'lavfi',
    '-i',
    'sine=f=440:r=48000',
    '-frames:v',
    '100',
    '-t',
    '4',
    '-c:v',
    'libx264',
    '-bf',
    '2',
    '-qp',
    '4',
    '-pix_fmt',
    'yuv420p',
    '-colorspace',
    'bt709',
    '-c:a',
    'flac',
    '-strict',
    '-2',
    path,
  ])
  base = await enter(createProject('Render', { width: 128, height: 72, rate: RATE }), SOURCE, 'counting', path)
})

/** Puts `length` frames of the source from `source` at frame `start` on the first picture or sound track. */
function put(project: Project, kind: 'picture' | 'sound', start: number, length: number, source: number): Project {
  const track = tracksOf(project, reelsOf(project)[0]!.id).find((entry) => entry.kind === kind)!
  const clipId = `00000000-0000-4000-8000-${(++pieces).toString().padStart(12, '0')}`
  const piece = {
    clipId,
    trackId: track.id,
    assetId: SOURCE,
    stream: kind === 'sound' ? 0 : null,
    start: frameToTicks(start, RATE),
    length: frameToTicks(length, RATE),
    source: frameToTicks(source, RATE),
    link: null,
  }
  return perform(project, { type: 'place', mode: 'free', pieces: [piece] })
}

const render = (project: Project, change: Partial<RenderSettings> = {}, name = 'out.mp4') =>
  renderTo(name, project, { width: 128, height: 72, rate: RATE, quality: 'best', ...change })

/** Mixed sounds that a storage keeps. */
function soundsKept(store: FolderStorage): number {
  const folder = join(store.root, 'chunks')
  if (!existsSync(folder)) return 0
  return readdirSync(folder, { recursive: true }).filter((name) => String(name).endsWith('.sound')).length
}

/** Luma in the middle of every frame of a file. */
const lumas = (path: string, width = 128, height = 72) => middleLumas(path, width, height)

describe('rendering a reel', () => {
  it('puts every frame where the cut says, black in gaps', async () => {
    let project = put(base, 'picture', 0, 10, 60)
    project = put(project, 'picture', 10, 15, 5)
    project = put(project, 'picture', 30, 70, 12)
    const { report, out } = await render(project)
    expect(report).toMatchObject({ frames: 100, seconds: 4, width: 128, height: 72, loudness: null })
    const expected = Array.from({ length: 100 }, (_, n) =>
      n < 10 ? 16 + 2 * (60 + n) : n < 25 ? 16 + 2 * (n - 10 + 5) : n < 30 ? 16 : 16 + 2 * (n - 30 + 12),
    )
    lumas(out).forEach((luma, n) => expect(Math.abs(luma - expected[n]!), `frame ${n}`).toBeLessThanOrEqual(3))
  })

  it('holds frozen frames, and shows nested reels as what is in them, with their sound', async () => {
    let project = put(base, 'picture', 0, 20, 40)
    const clipId = Object.keys(project.clips)[0]!
    const reelId = reelsOf(project)[0]!.id
    project = perform(project, { type: 'freeze', clipId, at: frameToTicks(8, RATE), length: frameToTicks(10, RATE) })
    project = put(project, 'sound', 0, 30, 0)
    const flat = await render(project, { sound: true }, 'flat.mp4')
    const expected = Array.from({ length: 30 }, (_, n) => 16 + 2 * (40 + (n < 8 ? n : n < 18 ? 8 : n - 10)))
    lumas(flat.out).forEach((luma, n) => expect(Math.abs(luma - expected[n]!), `frame ${n}`).toBeLessThanOrEqual(3))
    const inner = '00000000-0000-4000-8000-00000000beef'
    const nested = perform(project, { type: 'nest', clipIds: Object.keys(project.clips), reelId: inner, name: 'Inner' })
    const around = await render(nested, { sound: true }, 'nested.mp4')
    expect(lumas(around.out)).toEqual(lumas(flat.out))
    expect(around.report.loudness).toBeCloseTo(flat.report.loudness!, 3)
    // As a whole at half strength over black: between black and what it was.
    const shell = Object.values(nested.clips).find((clip) => clip.kind === 'reel' && clip.stream === null)!
    const faded = perform(nested, { type: 'setParams', clipIds: [shell.id], set: { opacity: 50 } })
    const half = lumas((await render(faded, {}, 'half.mp4')).out)
    half.forEach((luma, n) =>
      expect(Math.abs(luma - (16 + (expected[n]! - 16) / 2)), `frame ${n}`).toBeLessThanOrEqual(3),
    )
    expect(reelsOf(nested)[0]!.id).toBe(reelId)
  })

  it('turns a source of another rate into the output’s without losing its place', async () => {
    const project = put(base, 'picture', 0, 50, 0)
    const { report, out } = await render(project, { rate: { num: 50, den: 1 } })
    expect(report.frames).toBe(100)
    lumas(out).forEach((luma, n) => expect(Math.abs(luma - (16 + 2 * Math.floor(n / 2)))).toBeLessThanOrEqual(3))
  })

  it('leaves out frames that a fast clip passes over, and has those of its neighbours all the same', async () => {
    let project = put(base, 'picture', 0, 99, 1)
    const [fast] = Object.keys(project.clips)
    project = perform(project, { type: 'setSpeed', clipIds: [fast!], speed: 3 })
    project = put(project, 'picture', 33, 20, 2)
    project = put(project, 'picture', 53, 40, 20)
    const slower = Object.values(project.clips).find((clip) => clip.start === frameToTicks(53, RATE))!
    project = perform(project, { type: 'setSpeed', clipIds: [slower.id], speed: 2 })
    const { out } = await render(project)
    const shown = (n: number) => (n < 33 ? 1 + 3 * n : n < 53 ? n - 33 + 2 : 20 + 2 * (n - 53))
    const found = lumas(out)
    expect(found).toHaveLength(73)
    found.forEach((luma, n) => expect(Math.abs(luma - (16 + 2 * shown(n))), `frame ${n}`).toBeLessThanOrEqual(1))
  })

  it('draws what stands still once, and every frame of it is there', async () => {
    // Each frame of the film is in four of the output's, then one stands for a second.
    let project = put(base, 'picture', 0, 20, 40)
    const clipId = Object.keys(project.clips)[0]!
    project = perform(project, { type: 'freeze', clipId, at: frameToTicks(8, RATE), length: frameToTicks(25, RATE) })
    const shown = (n: number) => (n < 8 ? n : n < 33 ? 8 : n - 25)
    const dim = perform(project, { type: 'setParams', clipIds: Object.keys(project.clips), set: { opacity: 50 } })
    // Film stays planes at half its size and at any other, as long as nothing else is done to it.
    for (const [width, height, kind, how, reel, part] of [
      [96, 54, FilmPlanes, 'sized', project, 1],
      [64, 36, FilmPlanes, 'half', project, 1],
      [96, 54, Compositor, 'compose', dim, 0.5],
    ] as const) {
      const made = vi.spyOn(kind.prototype as unknown as Record<typeof how, () => void>, how)
      const { out, report } = await render(reel, { width, height, rate: { num: 100, den: 1 } }, `still-${how}.mp4`)
      expect(report.frames).toBe(180)
      expect(made, how).toHaveBeenCalledTimes(20)
      made.mockRestore()
      lumas(out, width, height).forEach((luma, n) =>
        expect(Math.abs(luma - (16 + part * 2 * (40 + shown(Math.floor(n / 4))))), `frame ${n}`).toBeLessThanOrEqual(3),
      )
    }
  })

  it('renders a range at another size, with sound of the same length', async () => {
    let project = put(base, 'picture', 0, 100, 0)
    project = put(project, 'sound', 0, 100, 0)
    const range = { from: frameToTicks(25, RATE), to: frameToTicks(75, RATE) }
    const { report, out } = await render(project, { width: 64, height: 36, range, sound: true })
    expect(report.frames).toBe(50)
    expect(report.loudness).toBeLessThan(-10)
    const first = lumas(out, 64, 36)[0]!
    expect(Math.abs(first - (16 + 2 * 25))).toBeLessThanOrEqual(3)
    expect(Math.abs((await inspectFile(out)).sound!.seconds - 2)).toBeLessThan(1024 / 48_000)
  })

  it('makes only what changed the second time', async () => {
    let project = base
    for (let i = 0; i < 3; i++) project = put(project, 'picture', i * 100, 100, 0)
    project = perform(project, { type: 'setReel', reelId: reelsOf(project)[0]!.id, set: { background: '#101010' } })
    const first = await render(project)
    expect(first.report.reused).toBeLessThan(first.report.chunks)
    const second = await render(project, {}, 'again.mp4')
    expect(second.report.reused).toBe(second.report.chunks)
    expect(lumas(second.out)).toEqual(lumas(first.out))
  })

  it('says in words what it can’t do, and leaves no half file', async () => {
    await expect(render(base)).rejects.toThrow('nothing in this reel')
    const missing = put(base, 'picture', 0, 10, 0)
    const other = new FolderStorage(join(dir, 'elsewhere'))
    const request = {
      project: missing,
      reelId: reelsOf(missing)[0]!.id,
      settings: settingsFor(missing, reelsOf(missing)[0]!.id, {}),
      book,
      storage: other,
      out: join(dir, 'never.mp4'),
    }
    await expect(renderReel(request)).rejects.toThrow('counting is still being prepared, or its file is missing')
    expect(() => statSync(join(dir, 'never.mp4'))).toThrow()
  })

  /** Three shots that nothing else here renders, with a cut that a transition lies on. */
  function threeShots(background: string): Project {
    let project = base
    for (let i = 0; i < 3; i++) project = put(project, 'picture', i * 100, 100, 0)
    const [left, right] = Object.values(project.clips).sort((a, b) => a.start - b.start)
    const join = { id: crypto.randomUUID(), kind: 'dissolve', settings: {}, missing: 'hold' as const }
    const ends = { leftId: left!.id, rightId: right!.id, before: frameToTicks(6, RATE), after: frameToTicks(5, RATE) }
    project = perform(project, { type: 'addTransitions', transitions: [{ ...join, ...ends }] })
    return perform(project, { type: 'setReel', reelId: reelsOf(project)[0]!.id, set: { background } })
  }

  /** A storage with the same sources, and no chunks. */
  function copyOfStorage(name: string): FolderStorage {
    for (const folder of ['originals', 'artefacts'])
      if (existsSync(join(storage.root, folder)))
        cpSync(join(storage.root, folder), join(dir, name, folder), { recursive: true })
    return new FolderStorage(join(dir, name))
  }

  /** A render of a picture with its sound from a storage of its own. */
  function heardRender(name: string) {
    const project = put(put(base, 'picture', 0, 100, 0), 'sound', 0, 100, 0)
    const reelId = reelsOf(project)[0]!.id
    const settings = settingsFor(project, reelId, { size: '320x180' })
    return { project, reelId, settings, book, storage: copyOfStorage(name), out: join(dir, `${name}.mp4`) }
  }

  it('mixes the sound while pictures are drawn, and speaks of it once they are there', async () => {
    const stages: string[] = []
    const request = heardRender('heard')
    let chunks = 0
    const report = await renderReel({
      ...request,
      progress: ({ stage }) => void (stages.at(-1) !== stage && stages.push(stage)),
      // Pictures that last until the sound is there.
      share: async ({ missing, signal }) => {
        await vi.waitUntil(() => soundsKept(request.storage) > 0, { timeout: 20_000 })
        expect(signal.aborted).toBe(false)
        chunks = missing.length
        cpSync(join(storage.root, 'chunks'), join(request.storage.root, 'chunks'), { recursive: true })
      },
    }).catch((error: Error) => error)
    // The chunks that it asked for were made by nobody.
    expect(chunks).toBeGreaterThan(0)
    expect(report).toMatchObject({ message: expect.stringContaining('gone from the store of chunks') as string })
    expect(stages).toEqual(['sound'])
    await renderReel({ ...request, progress: ({ stage }) => void (stages.at(-1) !== stage && stages.push(stage)) })
    expect(stages.slice(1)).toEqual(['picture', 'sound', 'joining', 'checking'])
  })

  it('ends the pictures when the sound fails, and says why', async () => {
    const request = heardRender('deaf')
    truncateSync(soundPath(request.storage, book.get(SOURCE)!.hash, 0), 3)
    let ended = false
    const share = async ({ signal }: { signal: AbortSignal }) => {
      await new Promise((resolve) => signal.addEventListener('abort', resolve))
      ended = true
      signal.throwIfAborted()
    }
    await expect(renderReel({ ...request, share })).rejects.toThrow(/sound/i)
    expect(ended).toBe(true)
    expect((await folderSize(join(request.storage.root, 'scratch'))).files).toBe(0)
  })

  it('draws chunks on several threads, to the same frames as on one', async () => {
    const project = threeShots('#201810')
    const request = (name: string, lanes: number) => ({
      project,
      reelId: reelsOf(project)[0]!.id,
      settings: settingsFor(project, reelsOf(project)[0]!.id, { size: '128x72', quality: 'best' }),
      ...{ book, storage: new FolderStorage(join(dir, name)), lanes, out: join(dir, `${name}.mp4`) },
    })
    for (const name of ['alone', 'together']) copyOfStorage(name)
    const seen: number[] = []
    const alone = await renderReel(request('alone', 1))
    const together = await renderReel({
      ...request('together', 3),
      progress: ({ framesDone }) => void seen.push(framesDone),
    })
    expect(together).toMatchObject({ frames: 300, reused: 0, chunks: alone.chunks })
    expect(lumas(join(dir, 'together.mp4'))).toEqual(lumas(join(dir, 'alone.mp4')))
    expect(seen).toEqual([...seen].sort((a, b) => a - b))
    expect(seen.at(-1)).toBe(300)
    expect((await folderSize(join(dir, 'together', 'scratch'))).files).toBe(0)
  })

  it('says what a thread could not do, and stops threads with the render', async () => {
    const project = threeShots('#101820')
    const request = {
      project,
      reelId: reelsOf(project)[0]!.id,
      settings: settingsFor(project, reelsOf(project)[0]!.id, { size: '320x180' }),
      ...{ book, storage, lanes: 2, out: join(dir, 'stopped.mp4') },
    }
    const cancel = new AbortController()
    const progress = ({ framesDone }: { framesDone: number }) =>
      void (framesDone > 0 && cancel.abort(new Error('enough')))
    await expect(renderReel({ ...request, signal: cancel.signal, progress })).rejects.toThrow('enough')
    const cube = 'c'.repeat(64)
    const effect = { domain: 'picture' as const, kind: 'lut', settings: { file: cube }, strength: 1 }
    const [clip] = Object.keys(project.clips)
    const broken = perform(project, { type: 'addEffects', owner: 'clip', ownerIds: [clip!], effects: [effect] })
    await expect(renderReel({ ...request, project: broken })).rejects.toThrow(
      'The .cube file of an effect is not there',
    )
    expect(existsSync(request.out)).toBe(false)
  })

  it('stops at once when it is cancelled', async () => {
    const project = put(put(base, 'picture', 0, 100, 0), 'picture', 200, 100, 0)
    const cancel = new AbortController()
    const settings = settingsFor(project, reelsOf(project)[0]!.id, { size: '1280x720' })
    const work = renderReel({
      project,
      reelId: reelsOf(project)[0]!.id,
      settings,
      book,
      storage,
      out: join(dir, 'cancelled.mp4'),
      signal: cancel.signal,
      progress: () => cancel.abort(new Error('enough')),
    })
    await expect(work).rejects.toThrow('enough')
    expect(() => statSync(join(dir, 'cancelled.mp4'))).toThrow()
  })
})

describe('words on the command line', () => {
  it('become settings, or say what is wrong', () => {
    const id = reelsOf(base)[0]!.id
    const filled = put(base, 'picture', 0, 100, 0)
    expect(settingsFor(filled, id, { size: '640x360', rate: '29.97', range: '1s-2s', quality: 'draft' })).toEqual({
      width: 640,
      height: 360,
      rate: { num: 30000, den: 1001 },
      range: { from: 705_600_000, to: 1_411_200_000 },
      quality: 'draft',
      sound: true,
      loudness: null,
      ...{ format: 'mp4-h264', fit: 'fit', chapters: true },
    })
    expect(settingsFor(filled, id, { purpose: 'tallClip' })).toMatchObject({ width: 1080, height: 1920, fit: 'fill' })
    expect(settingsFor(filled, id, {}, 'loop.gif')).toMatchObject({ format: 'gif', sound: false })
    expect(settingsFor(filled, id, { format: 'webm-av1' }, 'out.mp4').format).toBe('webm-av1')
    for (const [options, words] of [
      [{ size: 'big' }, '--size'],
      [{ size: '641x360' }, 'even'],
      [{ rate: '31' }, '--rate'],
      [{ range: '3s-2s' }, '--range'],
      [{ range: '3s-9s' }, 'the reel ends at 0:00:04:00'],
      [{ quality: 'fine' }, '--quality'],
      [{ loudness: '3' }, '--loudness'],
      [{ format: 'vhs' }, '--format is one of mp4-h264'],
      [{ purpose: 'tv' }, '--purpose is one of asReel'],
    ] as const)
      expect(() => settingsFor(filled, id, options)).toThrow(words)
  })

  it('name a reel, words of the film, and a purpose of one’s own', () => {
    const own = join(dir, 'pier.json')
    const purpose = (settings: object) =>
      writeFileSync(own, JSON.stringify({ duskPurpose: 1, name: 'Pier', settings: { ...AS_REEL, ...settings } }))
    const id = reelsOf(base)[0]!.id
    purpose({ format: 'gif', dither: 'pattern', side: 360 })
    expect(settingsFor(base, id, { purpose: own })).toMatchObject({ format: 'gif', dither: 'pattern', height: 360 })
    purpose({ format: 'mov-prores', alpha: true })
    const words = { title: 'Lantern night', description: 'At the quay' }
    expect(settingsFor(base, id, { purpose: own, ...words })).toMatchObject({ alpha: true, ...words })
    purpose({ side: 'tall' })
    expect(() => settingsFor(base, id, { purpose: own })).toThrow('pier.json is no purpose: settings.side')
    writeFileSync(own, 'not JSON')
    expect(() => settingsFor(base, id, { purpose: own })).toThrow('pier.json can’t be read as a purpose')
    const second = crypto.randomUUID()
    const format = { width: 1080, height: 1920, rate: RATE }
    const two = perform(base, { type: 'addReel', reelId: second, name: 'Tall cut', format })
    expect(reelFor(two, { reel: 'Tall cut' }).id).toBe(second)
    expect(reelFor(two, {}).id).toBe(id)
    expect(() => reelFor(two, { reel: 'Wide' })).toThrow('Tall cut, not Wide')
  })

  it('are answered with what the file holds', () => {
    const report = { frames: 1, seconds: 0.04, width: 64, height: 36, bytes: 90, took: 1 } as RenderReport
    const told = (format: DeliveryId, frames = 1) => reportWords({ ...report, frames, format })
    expect(told('mp4-h264', 2)).toBe('2 frames, 0.04 s, 64 × 36, 90 bytes, took 1.0 s')
    expect(told('gif')).toBe('1 frame, 0.04 s, 64 × 36, 90 bytes, took 1.0 s')
    expect(told('png-still')).toBe('64 × 36, 90 bytes, took 1.0 s')
    expect(told('wav')).toBe('0.04 s of sound, 90 bytes, took 1.0 s')
  })
})
