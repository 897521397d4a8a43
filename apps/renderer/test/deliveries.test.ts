import { execFileSync } from 'node:child_process'
import { createHash } from 'node:crypto'
import { readFileSync, statSync, writeFileSync } from 'node:fs'
import { mkdir } from 'node:fs/promises'
import { createRequire } from 'node:module'
import { dirname, join } from 'node:path'
import sharp from 'sharp'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { fontFiles } from '@dusk/compositor'
import { DELIVERIES, type Delivery, type DeliveryId } from '@dusk/interchange'
import { zippedFile } from '@dusk/media'
import type { RenderSettings } from '@dusk/store'
import { createProject, frameToTicks, ownFontValue, reelsOf, tracksOf, type Project } from '@dusk/timeline'
import { renderReel } from '../src/render/renderReel'
import { straightAlpha } from '../src/render/outputShape'
import { BARS } from './bars'
import { perform, testStore } from './store'

const require = createRequire(import.meta.url)
const RATE = { num: 25, den: 1 }
const FRAMES = 24
const [W, H] = [256, 144]
const { dir, storage, book, enter, remove } = testStore('deliveries')
let project: Project
afterAll(remove)

async function addStill(to: Project, name: string, pixels: Buffer, channels: 3 | 4) {
  const path = join(dir, `${name}.png`)
  await sharp(pixels, { raw: { width: W, height: H, channels } })
    .png()
    .toFile(path)
  const id = crypto.randomUUID()
  return { id, project: await enter(to, id, name, path) }
}

beforeAll(async () => {
  project = createProject('Deliveries', { width: W, height: H, rate: RATE })
  const bars = Buffer.alloc(W * H * 3)
  for (let i = 0; i < W * H; i++) bars.set(BARS[Math.floor((i % W) / (W / 8))]!, i * 3)
  const still = await addStill(project, 'bars', bars, 3)
  project = still.project
  const assetId = still.id
  const track = tracksOf(project, reelsOf(project)[0]!.id).find((entry) => entry.kind === 'picture')!
  const piece = {
    clipId: crypto.randomUUID(),
    trackId: track.id,
    assetId,
    stream: null,
    start: 0,
    source: 0,
    link: null,
  }
  project = perform(project, {
    type: 'place',
    mode: 'free',
    pieces: [{ ...piece, length: frameToTicks(FRAMES, RATE) }],
  })
  project = perform(project, {
    type: 'addMarkers',
    markers: [
      { id: crypto.randomUUID(), reelId: reelsOf(project)[0]!.id, clipId: null, at: frameToTicks(10, RATE), length: 0 },
    ].map((marker) => ({ ...marker, name: 'The = harbour; lights', colour: 'moss' as const, note: '' })),
  })
})

async function render(change: Partial<RenderSettings>, of = project) {
  const settings: RenderSettings = {
    ...{ width: W, height: H, rate: RATE, quality: 'best', range: null, sound: true },
    ...change,
  }
  const { ending } = DELIVERIES[settings.format ?? 'mp4-h264']
  const out = join(dir, `${crypto.randomUUID()}.${ending}`)
  const report = await renderReel({ project: of, reelId: reelsOf(of)[0]!.id, settings, book, storage, out })
  return { report, out }
}

const probe = (path: string, entries: string) =>
  JSON.parse(
    execFileSync('ffprobe', [
      '-v',
      'error',
      '-show_entries',
      entries,
      '-show_chapters',
      '-of',
      'json',
      path,
    ]).toString(),
  ) as {
    streams: Record<string, string>[]
    format?: { tags?: Record<string, string>; duration?: string }
    chapters: { start_time: string; tags: { title: string } }[]
  }

/** Pixels of all frames of a file as RGB, or RGBA, by its own tags. */
function decoded(path: string, channels: 3 | 4 = 3, codec: string[] = []): Buffer {
  const args = ['-v', 'error', ...codec, '-i', path, '-fps_mode', 'passthrough']
  const scale = 'scale=flags=accurate_rnd+full_chroma_int+full_chroma_inp+bicubic'
  return execFileSync(
    'ffmpeg',
    [...args, '-vf', scale, '-f', 'rawvideo', '-pix_fmt', channels === 3 ? 'rgb24' : 'rgba', 'pipe:1'],
    { maxBuffer: 1 << 28 },
  )
}

/** The largest difference of any bar's middle from what it should be, in all frames. */
function worstBar(rgb: Buffer, frames: number): number {
  let worst = 0
  for (let n = 0; n < frames; n++)
    for (const [i, bar] of BARS.entries()) {
      const x = Math.round((i + 0.5) * (W / 8))
      const at = (n * W * H + (H / 2) * W + x) * 3
      for (let k = 0; k < 3; k++) worst = Math.max(worst, Math.abs(rgb[at + k]! - bar[k]!))
    }
  return worst
}

const each = Object.entries(DELIVERIES) as [DeliveryId, Delivery][]
/** Codecs of pictures as ffprobe calls them. */
const NAMES: Record<string, string> = { h264: 'h264', h265: 'hevc', av1: 'av1', vp9: 'vp9', prores: 'prores' }

describe('every delivery', () => {
  for (const [format, delivery] of each.filter(([, { kind }]) => kind === 'film'))
    it(`${delivery.label} has every frame, true colours, its sound, words and chapters`, async () => {
      const words = { title: 'Lantern = night; at #7', description: 'Two\nlines', chapters: true }
      const { report, out } = await render({ format, ...words })
      expect(report).toMatchObject({ frames: FRAMES, width: W, height: H })
      const found = probe(
        out,
        'stream=codec_name,codec_type,color_space,color_range,color_primaries,chroma_location' +
          ':format=duration:format_tags',
      )
      const [picture, sound] = ['video', 'audio'].map((type) => found.streams.find((one) => one.codec_type === type)!)
      expect(picture).toMatchObject({ codec_name: NAMES[delivery.picture!], color_space: 'bt709' })
      expect(picture!.color_range).toBe('tv')
      // Where the codec or the file has a place for it.
      if (/h264|h265|vp9/.test(format)) expect(picture!.chroma_location).toBe('left')
      expect(sound?.codec_name).toBe(
        { aac: 'aac', opus: 'opus', pcm: 'pcm_s24le', flac: 'flac', mp3: 'mp3' }[delivery.sound!],
      )
      expect(Number(found.format!.duration)).toBeCloseTo(FRAMES / 25, 1)
      const tags = Object.fromEntries(
        Object.entries(found.format!.tags!).map(([key, value]) => [key.toLowerCase(), value]),
      )
      expect(tags.title).toBe(words.title)
      expect(tags.description ?? tags.comment).toBe(words.description)
      expect(found.chapters.map(({ start_time, tags: { title } }) => [Number(start_time), title])).toEqual([
        [0, 'Beginning'],
        [0.4, 'The = harbour; lights'],
      ])
      const rgb = decoded(out)
      expect(rgb.length).toBe(FRAMES * W * H * 3)
      expect(worstBar(rgb, FRAMES)).toBeLessThanOrEqual(2)
    })

  for (const [format, delivery] of each.filter(([, { kind }]) => kind === 'sound'))
    it(`${delivery.label} holds the sound alone`, async () => {
      const { report, out } = await render({ format, sound: false })
      expect(report.bytes).toBe(statSync(out).size)
      const { streams } = probe(out, 'stream=codec_type,channels,sample_rate')
      expect(streams).toEqual([{ codec_type: 'audio', channels: 2, sample_rate: '48000' }])
    })

  it('makes loops and pictures of every frame', async () => {
    const gif = await render({ format: 'gif', dither: 'none' })
    const shown = decoded(gif.out)
    expect(shown.length / (W * H * 3)).toBeGreaterThanOrEqual(1)
    expect(worstBar(shown, 1)).toBeLessThanOrEqual(6)
    expect(readFileSync(gif.out).includes('NETSCAPE2.0')).toBe(true)
    const webp = await render({ format: 'webp' })
    const { pages, loop } = await sharp(webp.out).metadata()
    // Pictures that do not differ may be one that stays longer.
    expect([(pages ?? 1) <= FRAMES, loop ?? 0]).toEqual([true, 0])
    const still = await render({ format: 'png-still' })
    const { data } = await sharp(still.out).removeAlpha().raw().toBuffer({ resolveWithObject: true })
    expect(worstBar(data, 1)).toBe(0)
    for (const [format, ending, most] of [
      ['png-frames', 'png', 0],
      ['jpeg-frames', 'jpg', 3],
    ] as const) {
      const { out } = await render({ format })
      const names = execFileSync('unzip', ['-Z1', out]).toString().trim().split('\n')
      expect(names).toEqual(
        Array.from({ length: FRAMES }, (_, n) => `frame-${String(n + 1).padStart(6, '0')}.${ending}`),
      )
      const last = execFileSync('unzip', ['-p', out, names.at(-1)!], { maxBuffer: 1 << 26 })
      const { data: pixels } = await sharp(last).removeAlpha().raw().toBuffer({ resolveWithObject: true })
      expect(worstBar(pixels, 1)).toBeLessThanOrEqual(most)
      // The picture that stands for them is one of them.
      expect((await zippedFile(out, 1)).equals(last)).toBe(true)
      expect((await zippedFile(out, 0)).length).toBeGreaterThan(0)
    }
  })

  it('keeps what is seen through where the file can hold it', async () => {
    const half = Buffer.alloc(W * H * 4)
    for (let i = 0; i < W * H; i++) half.set(i % W < W / 2 ? [200, 40, 40, 128] : [0, 0, 0, 0], i * 4)
    const empty = createProject('Through', { width: W, height: H, rate: RATE })
    const { id: assetId, project: entered } = await addStill(empty, 'half', half, 4)
    let through = entered
    const trackId = tracksOf(through, reelsOf(through)[0]!.id).find((entry) => entry.kind === 'picture')!.id
    const piece = { clipId: crypto.randomUUID(), trackId, assetId, stream: null, start: 0, source: 0, link: null }
    through = perform(through, { type: 'place', mode: 'free', pieces: [{ ...piece, length: frameToTicks(5, RATE) }] })
    for (const [format, codec] of [
      ['mov-prores', []],
      ['webm-vp9', ['-c:v', 'libvpx-vp9']],
      ['png-still', []],
      ['webp', null],
    ] as const) {
      const { out } = await render({ format, alpha: true, sound: false }, through)
      const pixels = codec ? decoded(out, 4, [...codec]) : await sharp(out).ensureAlpha().raw().toBuffer()
      const [left, right] = [(H / 2) * W + W / 4, (H / 2) * W + (W * 3) / 4].map((at) => [
        ...pixels.subarray(at * 4, at * 4 + 4),
      ])
      expect(Math.abs(left![3]! - 128), format).toBeLessThanOrEqual(3)
      expect(Math.abs(left![0]! - 200), format).toBeLessThanOrEqual(4)
      expect(right![3], format).toBeLessThanOrEqual(2)
    }
  })

  it('lies in a file of another shape whole, or fills it with its middle', async () => {
    const fit = decoded((await render({ width: 144, height: 144, format: 'png-still', fit: 'fit' })).out)
    const pixel = (rgb: Buffer, x: number, y: number) => [...rgb.subarray((y * 144 + x) * 3, (y * 144 + x) * 3 + 3)]
    expect(fit.length).toBe(144 * 144 * 3)
    expect(pixel(fit, 72, 5)).toEqual([0, 0, 0])
    expect(pixel(fit, 9, 72)).toEqual([...BARS[0]])
    expect(pixel(fit, 135, 72)).toEqual([...BARS[7]])
    const fill = decoded((await render({ width: 144, height: 144, format: 'png-still', fit: 'fill' })).out)
    expect(pixel(fill, 72 - 8, 5)).toEqual([...BARS[3]])
    // The outer bars are cut off.
    expect(pixel(fill, 4, 72)).toEqual([...BARS[1]])
  })

  it('sets titles in a font file of one’s own, and says so when that is lost', async () => {
    const bytes = readFileSync(require.resolve(fontFiles('Pixelify Sans')[0]!.path))
    const hash = createHash('sha256').update(bytes).digest('hex')
    await mkdir(dirname(storage.given(hash)), { recursive: true })
    writeFileSync(storage.given(hash), bytes)
    const titled = (font: string) => {
      const empty = createProject('Titled', { width: W, height: H, rate: RATE })
      const trackId = tracksOf(empty, reelsOf(empty)[0]!.id).find((entry) => entry.kind === 'picture')!.id
      const title = { text: 'Quay', style: { font, size: 60 }, runs: [], in: null, out: null, during: null }
      const clip = { kind: 'title' as const, clipId: crypto.randomUUID(), trackId, start: 0, title, params: {} }
      const generated = [{ ...clip, length: frameToTicks(5, RATE) }]
      return perform(empty, { type: 'addGenerated', mode: 'free', generated })
    }
    const drawn = async (font: string) => decoded((await render({ format: 'png-still' }, titled(font))).out)
    const shipped = await drawn('Pixelify Sans')
    expect((await drawn(ownFontValue({ name: 'Mine', hash }))).equals(shipped)).toBe(true)
    expect((await drawn('Hanken Grotesk')).equals(shipped)).toBe(false)
    const lost = ownFontValue({ name: 'Gone', hash: 'ab'.repeat(32) })
    await expect(drawn(lost)).rejects.toThrow('The font file of a title is not there')
  })

  it('aims at bits a second', async () => {
    const { report } = await render({ format: 'mp4-h264', bitrate: 400_000, sound: false })
    expect(report.bytes).toBeLessThan(((400_000 / 8) * FRAMES) / 25 + 20_000)
  })

  it('brings premultiplied colours back to straight ones', () => {
    const out = new Uint8Array(12)
    straightAlpha(Uint8Array.from([100, 20, 20, 128, 0, 0, 0, 0, 9, 8, 7, 255]), out)
    expect([...out]).toEqual([199, 40, 40, 128, 0, 0, 0, 0, 9, 8, 7, 255])
  })
})
