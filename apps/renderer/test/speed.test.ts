import { execFileSync } from 'node:child_process'
import { statSync } from 'node:fs'
import { copyFile, mkdir } from 'node:fs/promises'
import { dirname, join } from 'node:path'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { examine, hashFile } from '@dusk/media'
import { assetFacts, clipsOn, createProject, frameToTicks, reelsOf, tracksOf, type Project } from '@dusk/timeline'
import { makeMadeFrames } from '../src/jobs/madeFrames'
import { renderReel } from '../src/render/renderReel'
import type { SourceBook } from '../src/render/sources'
import { perform, testStore } from './store'

const RATE = { num: 30, den: 1 }
const SECONDS = 8
/** Seconds of the source at which the picture flashes and a beep is heard, one frame long. */
const FLASHES = [1, 2.5, 4, 5.5, 7]
const { dir, storage, book, enter, remove } = testStore('speed')
const SOURCE = crypto.randomUUID()
let base: Project
afterAll(remove)

beforeAll(async () => {
  const path = join(dir, 'flashes.mp4')
  const frames = FLASHES.map((at) => `eq(N,${at * 30})`).join('+')
  // The beep lasts as long as its frame is shown.
  const beeps = FLASHES.map((at) => `between(t,${at},${at + 1 / 30})`).join('+')
  const picture = `nullsrc=s=64x36:r=30,geq=lum='if(${frames},235,16)':cb=128:cr=128`
  const sound = `aevalsrc=exprs='0.6*sin(2*PI*1000*t)*(${beeps})':s=48000`
  const coding = ['-c:v', 'libx264', '-qp', '4', '-pix_fmt', 'yuv420p', '-colorspace', 'bt709', '-c:a', 'flac']
  const inputs = ['-f', 'lavfi', '-i', picture, '-f', 'lavfi', '-i', sound, '-t', String(SECONDS)]
  execFileSync('ffmpeg', ['-v', 'error', ...inputs, ...coding, '-strict', '-2', path])
  base = await enter(createProject('Speed', { width: 64, height: 36, rate: RATE }), SOURCE, 'flashes', path)
  const tracks = tracksOf(base, reelsOf(base)[0]!.id)
  const link = crypto.randomUUID()
  const piece = { assetId: SOURCE, start: 0, length: frameToTicks(SECONDS * 30, RATE), source: 0, link }
  base = perform(base, {
    type: 'place',
    mode: 'free',
    pieces: [
      {
        ...piece,
        clipId: crypto.randomUUID(),
        trackId: tracks.find(({ kind }) => kind === 'picture')!.id,
        stream: null,
      },
      { ...piece, clipId: crypto.randomUUID(), trackId: tracks.find(({ kind }) => kind === 'sound')!.id, stream: 0 },
    ],
  })
})

/** The one picture of the reel. */
const clip = (project: Project) =>
  clipsOn(project, tracksOf(project, reelsOf(project)[0]!.id).find(({ kind }) => kind === 'picture')!.id)[0]!

async function render(project: Project, loudness: number | null = null) {
  const out = join(dir, `${crypto.randomUUID()}.mp4`)
  const settings = { width: 64, height: 36, rate: RATE, quality: 'best', range: null, sound: true, loudness } as const
  const report = await renderReel({ project, reelId: reelsOf(project)[0]!.id, settings, book, storage, out })
  return { out, report }
}

/** Seconds at which the picture of a file turns bright, and at which something begins to be heard. */
function events(path: string): { flashes: number[]; beeps: number[] } {
  const options = { maxBuffer: 1 << 28 }
  const video = ['-fps_mode', 'passthrough', '-f', 'rawvideo', '-pix_fmt', 'gray', 'pipe:1']
  const raw = execFileSync('ffmpeg', ['-v', 'error', '-i', path, ...video], options)
  const bright = Array.from({ length: raw.length / (64 * 36) }, (_, n) => raw[n * 64 * 36 + 18 * 64 + 32]! > 120)
  const flashes = bright.flatMap((on, n) => (on && !bright[n - 1] ? [n / 30] : []))
  const pcm = execFileSync(
    'ffmpeg',
    ['-v', 'error', '-i', path, '-f', 'f32le', '-ac', '1', '-ar', '48000', 'pipe:1'],
    options,
  )
  const sound = new Float32Array(pcm.buffer, pcm.byteOffset, Math.floor(pcm.length / 4))
  const beeps: number[] = []
  let quiet = 4800
  for (const [i, value] of sound.entries()) {
    if (Math.abs(value) > 0.08) {
      if (quiet > 2400) beeps.push(i / 48_000)
      quiet = 0
    } else quiet++
  }
  return { flashes, beeps }
}

describe('speed in a rendered file', () => {
  const curve = [
    { at: 0, speed: 0.4, ease: 'smooth' as const },
    { at: frameToTicks(100, RATE), speed: 1, ease: 'linear' as const },
    { at: frameToTicks(160, RATE), speed: 0.7, ease: 'linear' as const },
  ]
  const cases: [string, (project: Project) => Project][] = [
    ['as it was filmed', (project) => project],
    ['half as fast', (p) => perform(p, { type: 'setSpeed', clipIds: [clip(p).id], speed: 0.5 })],
    ['two and a half times as fast', (p) => perform(p, { type: 'setSpeed', clipIds: [clip(p).id], speed: 2.5 })],
    ['backwards', (p) => perform(p, { type: 'setSpeed', clipIds: [clip(p).id], reverse: true })],
    ['along a curve', (p) => perform(p, { type: 'setSpeedCurve', clipId: clip(p).id, points: curve })],
  ]

  it.each(cases)('keeps each beep with its flash: %s', async (_, change) => {
    const { out } = await render(change(base))
    const { flashes, beeps } = events(out)
    expect(flashes).toHaveLength(FLASHES.length)
    expect(beeps).toHaveLength(FLASHES.length)
    // Ten milliseconds and one frame of the reel.
    for (const [i, flash] of flashes.entries()) expect(Math.abs(beeps[i]! - flash)).toBeLessThan(0.01 + 1 / 30)
  })

  it('shows the right frames backwards', async () => {
    const project = perform(base, { type: 'setSpeed', clipIds: [clip(base).id], reverse: true })
    const { flashes } = events((await render(project)).out)
    const expected = FLASHES.map((at) => (SECONDS * 30 - 1 - at * 30) / 30).reverse()
    for (const [i, at] of expected.entries()) expect(flashes[i]).toBeCloseTo(at, 5)
  })
})

describe('loudness of a rendered file', () => {
  it('is what was asked for, and its true peak stays below the ceiling, as ffmpeg measures them', async () => {
    for (const wanted of [-16, -23]) {
      const { out, report } = await render(base, wanted)
      const run = ['-nostats', '-i', out, '-af', 'ebur128=peak=true', '-f', 'null', '-']
      const log = execFileSync('bash', ['-c', `ffmpeg ${run.join(' ')} 2>&1`], { encoding: 'utf8' })
      const summary = log.slice(log.lastIndexOf('Summary:'))
      const [integrated, peak] = [/I:\s+(-?[\d.]+) LUFS/, /Peak:\s+(-?[\d.]+) dBFS/].map((form) =>
        Number(form.exec(summary)![1]),
      )
      // Also where the limiter has to work, which takes some of it away.
      expect(Math.abs(integrated! - wanted)).toBeLessThan(0.16)
      expect(peak).toBeLessThan(-0.5)
      expect(Math.abs(report.loudness! - integrated!)).toBeLessThan(0.3)
    }
  })
})

describe('slow motion in a rendered file', () => {
  it('shows a frame of its own in every frame where they are made, and the same ones again where not', async () => {
    const path = join(dir, 'bar.mp4')
    const bar = "nullsrc=s=128x72:r=30,geq=lum='if(lt(abs(X-10-N*2),6)*lt(abs(Y-36),20),220,40)':cb=128:cr=128"
    const coding = '-frames:v 45 -c:v libx264 -qp 4 -pix_fmt yuv420p -colorspace bt709'.split(' ')
    execFileSync('ffmpeg', ['-v', 'error', '-f', 'lavfi', '-i', bar, ...coding, path])
    const hash = await hashFile(path)
    await mkdir(dirname(storage.original(hash)), { recursive: true })
    await copyFile(path, storage.original(hash))
    const id = crypto.randomUUID()
    const metadata = await examine(path, statSync(path).size)
    const own: SourceBook = new Map([[id, { hash, metadata }]])
    let project = perform(createProject('Slow', { width: 128, height: 72, rate: RATE }), {
      type: 'addAsset',
      asset: assetFacts(id, 'bar', metadata),
    })
    const reelId = reelsOf(project)[0]!.id
    const [track] = tracksOf(project, reelId).filter(({ kind }) => kind === 'picture')
    const clipId = crypto.randomUUID()
    project = perform(project, {
      type: 'place',
      mode: 'free',
      pieces: [
        {
          ...{ clipId, trackId: track!.id, assetId: id, stream: null, link: null },
          ...{ start: 0, length: frameToTicks(30, RATE), source: frameToTicks(5, RATE) },
        },
      ],
    })
    project = perform(project, { type: 'setSpeed', clipIds: [clipId], speed: 0.25 })
    const places = async (slowMotion: 'made' | 'repeat', ready: SourceBook) => {
      const slow = perform(project, { type: 'setParams', clipIds: [clipId], set: { slowMotion } as never })
      await makeMadeFrames(slow, ready, storage, dir)
      const out = join(dir, `${slowMotion}.mp4`)
      const settings = { width: 128, height: 72, rate: RATE, quality: 'best', range: null, sound: false } as const
      await renderReel({ project: slow, reelId, settings, book: ready, storage, out })
      const args = ['-v', 'error', '-i', out, ...'-fps_mode passthrough -f rawvideo -pix_fmt gray -'.split(' ')]
      const raw = execFileSync('ffmpeg', args, { maxBuffer: 1 << 28 })
      return Array.from({ length: 100 }, (_, n) => {
        let [sum, weight] = [0, 0]
        for (let x = 0; x < 128; x++) {
          const over = raw[(n * 72 + 36) * 128 + x]! - 60
          if (over > 0) [sum, weight] = [sum + over * x, weight + over]
        }
        return sum / weight
      })
    }
    // Half a pixel a frame.
    for (const [n, place] of (await places('made', own)).entries())
      expect(Math.abs(place - (20 + n / 2)), `${n}`).toBeLessThan(0.7)
    expect([...own.get(id)!.made!.keys()]).toEqual(['4.0'])
    const repeated = await places('repeat', new Map([[id, { hash, metadata }]]))
    expect(Math.abs(repeated[3]! - repeated[0]!)).toBeLessThan(0.1)
    expect(Math.abs(repeated[4]! - repeated[3]! - 2)).toBeLessThan(0.2)
  })
})
