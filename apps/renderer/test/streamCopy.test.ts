import { execFileSync } from 'node:child_process'
import { readFileSync, renameSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { CopyableFilm, folderSize } from '@dusk/media'
import type { RenderSettings } from '@dusk/store'
import { createProject, frameToTicks, reelsOf, tracksOf, type Project } from '@dusk/timeline'
import { settingsFor } from '../src/cli'
import { decodedFrames } from './decoded'
import { perform, testStore } from './store'

const RATE = { num: 30_000, den: 1001 }
const [WIDTH, HEIGHT] = [160, 90]
const { dir, storage, book, enter, renderTo, remove } = testStore('copy')
afterAll(remove)

/** Films that a camera, another one, and programs of all kinds could have made. 300 frames each. */
const TAGS = '-colorspace bt709 -color_primaries bt709 -color_trc bt709'
const FILMS = {
  camera: `-preset fast -g 30 -bf 3 -sc_threshold 0 ${TAGS}`,
  other: `-preset ultrafast -profile:v baseline -g 25 -sc_threshold 0 ${TAGS}`,
  open: `-preset fast -x264-params open-gop=1:keyint=30:scenecut=0 -bf 3 ${TAGS}`,
  late: `-preset fast -g 30 -bf 2 -sc_threshold 0 ${TAGS} -output_ts_offset 0.7`,
  turned: `-preset fast -g 30 ${TAGS}`,
  standard: '-preset fast -g 30 -colorspace smpte170m',
} as const
type Film = keyof typeof FILMS
const ids = Object.fromEntries(Object.keys(FILMS).map((name) => [name, crypto.randomUUID()])) as Record<Film, string>
const pathOf = (film: Film) => join(dir, `${film}.mp4`)
let base: Project

beforeAll(async () => {
  base = createProject('Copies', { width: WIDTH, height: HEIGHT, rate: RATE })
  for (const film of Object.keys(FILMS) as Film[]) {
    execFileSync('ffmpeg', [
      ...`-v error -f lavfi -i testsrc2=s=${WIDTH}x${HEIGHT}:r=${RATE.num}/${RATE.den}`.split(' '),
      ...`-f lavfi -i sine=330 -frames:v 300 -t 10.01 -c:v libx264 -pix_fmt yuv420p ${FILMS[film]}`.split(' '),
      ...['-c:a', 'aac', pathOf(film)],
    ])
    if (film === 'turned') turn(pathOf(film))
    base = await enter(base, ids[film], film, pathOf(film))
  }
})

/** Says of a film that it is to be shown upside down. */
function turn(path: string): void {
  const flat = `${path}.flat.mp4`
  renameSync(path, flat)
  execFileSync('ffmpeg', ['-v', 'error', '-i', flat, ...'-c copy -metadata:s:v rotate=180'.split(' '), path])
}

let pieces = 0
/** Puts `length` frames of a film from `source` on behind what is there. */
function append(project: Project, film: Film, source: number, length: number, kind: 'picture' | 'sound' = 'picture') {
  const track = tracksOf(project, reelsOf(project)[0]!.id).find((entry) => entry.kind === kind)!
  const there = Object.values(project.clips).filter(({ trackId }) => trackId === track.id)
  const start = Math.max(0, ...there.map((clip) => clip.start + clip.length))
  const clipId = `00000000-0000-4000-8000-${(++pieces).toString().padStart(12, '0')}`
  const piece = {
    ...{ clipId, trackId: track.id, assetId: ids[film], stream: kind === 'sound' ? 0 : null, link: null },
    ...{ start, length: frameToTicks(length, RATE), source: frameToTicks(source, RATE) },
  }
  return perform(project, { type: 'place', mode: 'free', pieces: [piece] })
}

const render = (project: Project, change: Partial<RenderSettings> = {}, ending = 'mp4') =>
  renderTo(`out-${++pieces}.${ending}`, project, {
    ...{ width: WIDTH, height: HEIGHT, rate: RATE, streamCopy: true },
    ...change,
  })

const frames = (path: string) => decodedFrames(path, WIDTH, HEIGHT)

/** Times of a file's frames as numbers of frames. */
function times(path: string): number[] {
  const args = ['-v', 'error', '-select_streams', 'v', '-show_entries', 'frame=pts_time', '-of', 'csv=p=0', path]
  const out = execFileSync('ffprobe', args).toString()
  return out.split('\n').flatMap((line) => (line ? (Number.parseFloat(line) * RATE.num) / RATE.den : []))
}

/** Which frames of `found` are, byte for byte, those of `film` from `source` on. */
const alike = (found: readonly Buffer[], film: readonly Buffer[], source: number) =>
  found.flatMap((frame, n) => (frame.equals(film[source + n]!) ? [n] : []))
const span = (from: number, to: number) => Array.from({ length: to - from }, (_, n) => from + n)
/** Mean difference of two frames in a value of each pixel. */
function difference(a: Buffer, b: Buffer): number {
  let sum = 0
  for (let i = 0; i < a.length; i++) sum += Math.abs(a[i]! - b[i]!)
  return sum / a.length
}

describe('what nothing was done to', () => {
  it('is copied as it is coded between pictures that stand by themselves, the rest encoded', async () => {
    let project = append(base, 'camera', 17, 140)
    project = append(project, 'camera', 200, 95)
    project = append(project, 'camera', 17, 140, 'sound')
    const { report, out } = await render(project, { sound: true })
    // 30 to 150 of the first shot, 210 to 270 of the second.
    expect(report).toMatchObject({ frames: 235, copied: 180 })
    const [found, camera] = [frames(out), frames(pathOf('camera'))]
    expect(found).toHaveLength(235)
    times(out).forEach((time, n) => expect(time).toBeCloseTo(n, 2))
    expect(alike(found.slice(0, 140), camera, 17)).toEqual(expect.arrayContaining(span(13, 133)))
    expect(alike(found.slice(140), camera, 200)).toEqual(expect.arrayContaining(span(10, 70)))
    // What was encoded shows the same.
    found.forEach((frame, n) => expect(difference(frame, camera[n < 140 ? 17 + n : 60 + n]!)).toBeLessThan(3))
  })

  it.each(['mov', 'mkv'] as const)('is copied into %s too', async (ending) => {
    const { report, out } = await render(append(base, 'camera', 5, 290), { format: `${ending}-h264` }, ending)
    expect(report.copied).toBe(240)
    expect(alike(frames(out), frames(pathOf('camera')), 5)).toEqual(expect.arrayContaining(span(25, 265)))
  })

  it('reaches to the end of its film, and over all of it', async () => {
    const { report, out } = await render(append(base, 'camera', 0, 300))
    expect(report).toMatchObject({ frames: 300, copied: 300, chunks: 1 })
    expect(alike(frames(out), frames(pathOf('camera')), 0)).toEqual(span(0, 300))
  })

  it('is taken from the film that gives more where two call their parameter sets alike', async () => {
    let project = append(base, 'camera', 30, 150)
    project = append(project, 'other', 0, 75)
    project = append(project, 'camera', 0, 30)
    const { report, out } = await render(project)
    expect(report).toMatchObject({ frames: 255, copied: 180 })
    const [found, other] = [frames(out), frames(pathOf('other'))]
    found.slice(150, 225).forEach((frame, n) => expect(difference(frame, other[n]!)).toBeLessThan(3))
  })

  it('begins where a decoder forgets what was before, not at every keyframe', async () => {
    // Only its first picture does.
    const whole = await render(append(base, 'open', 0, 300))
    expect(whole.report.copied).toBe(300)
    expect(alike(frames(whole.out), frames(pathOf('open')), 0)).toEqual(span(0, 300))
    expect((await render(append(base, 'open', 10, 290))).report.copied).toBe(0)
  })

  it('is found by numbers, also where a film begins late', async () => {
    const { report, out } = await render(append(base, 'late', 40, 200))
    expect(report.copied).toBe(180)
    expect(alike(frames(out), frames(pathOf('late')), 40)).toEqual(expect.arrayContaining(span(20, 200)))
  })

  it.each(['turned', 'standard'] as const)('is not a film that is changed on its way in: %s', async (film) => {
    expect((await render(append(base, film, 0, 120))).report).toMatchObject({ frames: 120, copied: 0 })
  })

  it('is nothing that is changed on its way out', async () => {
    const project = append(base, 'camera', 0, 120)
    const copied = async (change: Partial<RenderSettings>) => (await render(project, change)).report.copied
    expect(await copied({ width: 128, height: 72 })).toBe(0)
    expect(await copied({ rate: { num: 30, den: 1 } })).toBe(0)
    expect(await copied({ bitrate: 1_000_000 })).toBe(0)
    expect(await copied({ format: 'mp4-h265' })).toBe(0)
    expect(await copied({ streamCopy: false })).toBe(0)
    const [clip] = Object.values(project.clips)
    const dim = perform(project, { type: 'setParams', clipIds: [clip!.id], set: { opacity: 90 } })
    expect(await render(dim)).toMatchObject({ report: { copied: 0 } })
    // What is before a shot that is changed, and after it, stays.
    const before = append(base, 'camera', 0, 40)
    const middle = append(before, 'camera', 40, 20)
    const changed = Object.keys(middle.clips).filter((id) => !before.clips[id])
    const set = { opacity: 90 }
    const mixed = append(perform(middle, { type: 'setParams', clipIds: changed, set }), 'camera', 60, 60)
    expect(await render(mixed)).toMatchObject({ report: { frames: 120, copied: 90 } })
  })

  it('is said where a film is damaged in the middle, with the way out', async () => {
    const path = join(dir, 'damaged.mp4')
    execFileSync('ffmpeg', ['-v', 'error', '-i', pathOf('camera'), ...'-c copy -metadata comment=2'.split(' '), path])
    const id = crypto.randomUUID()
    const project = await enter(base, id, 'damaged', path)
    const film = (await CopyableFilm.open(path, book.get(id)!.metadata))!
    // The length of a unit of a picture between two that stand by themselves.
    const pictures = film.pictures(30, 30)
    for (let n = 0; n < 7; n++) await pictures.next()
    const { data } = (await pictures.next()).value!
    film.close()
    const original = storage.original(book.get(id)!.hash)
    const bytes = readFileSync(original)
    const at = bytes.indexOf(Buffer.from(data))
    expect(at).toBeGreaterThan(0)
    bytes.writeUInt32BE(0x00ffffff, at)
    writeFileSync(original, bytes)
    const trackId = tracksOf(project, reelsOf(project)[0]!.id).find(({ kind }) => kind === 'picture')!.id
    const piece = { clipId: crypto.randomUUID(), trackId, assetId: id, stream: null, link: null, start: 0, source: 0 }
    const cut = perform(project, {
      ...{ type: 'place', mode: 'free' },
      pieces: [{ ...piece, length: frameToTicks(120, RATE) }],
    })
    await expect(render(cut)).rejects.toThrow(
      /A shot could not be taken over as it is coded: .*Render it again with changes, without keeping/,
    )
    expect((await folderSize(storage.path('scratch'))).files).toBe(0)
  })

  it('is asked for on the command line, or refused there in words', () => {
    const [reel] = reelsOf(base)
    expect(settingsFor(base, reel!.id, { copy: true })).toMatchObject({ streamCopy: true })
    expect(() => settingsFor(base, reel!.id, { copy: true, format: 'mp4-h265' })).toThrow(
      '--copy is for films in H.264',
    )
    expect(() => settingsFor(base, reel!.id, { copy: true, fit: '8' })).toThrow('--copy goes by quality')
  })

  it('is kept as other chunks are, and made again only where it changed', async () => {
    const project = append(append(base, 'camera', 10, 200), 'camera', 220, 70)
    const first = await render(project)
    const again = await render(project)
    expect(again.report.reused).toBe(first.report.chunks)
    expect(alike(frames(again.out), frames(first.out), 0)).toEqual(span(0, 270))
  })
})
