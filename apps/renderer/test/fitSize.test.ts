import { execFileSync } from 'node:child_process'
import { readdirSync } from 'node:fs'
import { join } from 'node:path'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { inspectFile } from '@dusk/media'
import type { RenderProgress, RenderSettings } from '@dusk/store'
import { createProject, frameToTicks, reelsOf, tracksOf, type Project } from '@dusk/timeline'
import { settingsFor } from '../src/cli'
import { renderReel } from '../src/render/renderReel'
import { perform, testStore } from './store'

const RATE = { num: 24000, den: 1001 }
const FRAMES = 190
const { dir, storage, book, enter, remove } = testStore('fit')
let project: Project
afterAll(remove)

beforeAll(async () => {
  // A quiet stretch, then a busy one: bits have to be shared out unevenly.
  const path = join(dir, 'night.mp4')
  const busy = 'testsrc2=s=320x180:r=24000/1001,noise=alls=25:allf=t'
  execFileSync('ffmpeg', [
    ...['-v', 'error', '-f', 'lavfi', '-i', busy, '-f', 'lavfi', '-i', 'anoisesrc=c=pink:a=0.3:r=48000:seed=1'],
    ...['-vf', "eq=brightness='if(gt(t,4),0,-0.2)':eval=frame", '-frames:v', String(FRAMES), '-t', '8'],
    ...'-c:v libx264 -preset ultrafast -crf 12 -pix_fmt yuv420p -colorspace bt709 -c:a aac'.split(' '),
    path,
  ])
  const id = crypto.randomUUID()
  project = await enter(createProject('Fit', { width: 320, height: 180, rate: RATE }), id, 'night', path)
  const [reel] = reelsOf(project)
  const piece = (kind: 'picture' | 'sound') => ({
    ...{
      clipId: crypto.randomUUID(),
      assetId: id,
      stream: kind === 'sound' ? 0 : null,
      start: 0,
      source: 0,
      link: null,
    },
    trackId: tracksOf(project, reel!.id).find((track) => track.kind === kind)!.id,
    length: kind === 'sound' ? 7.5 * 705_600_000 : Math.round(frameToTicks(FRAMES - 10, RATE)),
  })
  project = perform(project, { type: 'place', mode: 'free', pieces: [piece('picture'), piece('sound')] })
})

const settings: RenderSettings = {
  ...{ width: 320, height: 180, rate: RATE, quality: 'good' as const, range: null, sound: true },
}
const told: RenderProgress[] = []
async function render(change: Partial<RenderSettings>, name: string) {
  const out = join(dir, name)
  const [reel] = reelsOf(project)
  return {
    out,
    report: await renderReel({
      ...{ project, reelId: reel!.id, settings: { ...settings, ...change }, book, storage, out },
      progress: (progress) => told.push(progress),
    }),
  }
}

describe('a file that is to fit into a size', () => {
  it('comes out within three per cent under it, whatever the codec, with all of its frames', async () => {
    const tried = [
      ['mp4-h264', 500_000],
      ['webm-vp9', 700_000],
      // Slow ones, which are told their size in the same way as the first.
      ['mkv-h265', 1_500_000],
    ] as const
    for (const [format, bytes] of tried.slice(0, process.env.DUSK_LONG ? 3 : 1)) {
      const { report, out } = await render(
        { format, maxBytes: bytes, speed: 'quick' },
        `${format}-${bytes}.${format.split('-')[0]}`,
      )
      expect(report.bytes, format).toBeLessThanOrEqual(bytes)
      expect(report.bytes, format).toBeGreaterThan(bytes * 0.97)
      const found = await inspectFile(out)
      expect(found.picture!.frames).toBe(FRAMES - 10)
      // Opus begins a little before what is heard.
      expect(Math.abs(found.picture!.start)).toBeLessThan(0.01)
      expect(found.seconds).toBeCloseTo(((FRAMES - 10) * 1001) / 24000, 1)
      expect(found.sound!.channels).toBe(2)
    }
    const fitting = told.filter(({ stage }) => stage === 'fitting').map(({ framesDone }) => framesDone)
    expect(fitting.length).toBeGreaterThan(0)
    expect(Math.max(...fitting)).toBeLessThanOrEqual(100)
  })

  it('is made of the same chunks at another size', async () => {
    const { report } = await render({ maxBytes: 800_000 }, 'again.mp4')
    expect(report.reused).toBe(report.chunks)
    // What the passes wrote down is gone.
    expect(readdirSync(storage.path('scratch'), { recursive: true }).filter((name) => `${name}`.includes('.'))).toEqual(
      [],
    )
  })

  it('says in words when the size is too small, and stops when it is cancelled', async () => {
    await expect(render({ maxBytes: 100_000 }, 'tiny.mp4')).rejects.toThrow(
      /^0\.1 MB are too few for 8 s of 320 × 180: it takes 0\.\d MB at least, most of it for the sound\./,
    )
    const stop = new AbortController()
    const [reel] = reelsOf(project)
    const running = renderReel({
      ...{ project, reelId: reel!.id, settings: { ...settings, maxBytes: 900_000 }, book, storage },
      ...{ out: join(dir, 'stopped.mp4'), signal: stop.signal },
      progress: ({ stage }) => stage === 'fitting' && stop.abort(new Error('cancelled')),
    })
    await expect(running).rejects.toThrow('cancelled')
  })

  it('is asked for on the command line, or refused there in words', () => {
    const [reel] = reelsOf(project)
    const asked = settingsFor(project, reel!.id, { fit: '8', speed: 'thorough' })
    expect(asked).toMatchObject({ maxBytes: 8_000_000, speed: 'thorough' })
    expect(asked.bitrate).toBeUndefined()
    expect(() => settingsFor(project, reel!.id, { fit: '8', format: 'mov-prores' })).toThrow('--fit is for films in')
    expect(() => settingsFor(project, reel!.id, { fit: 'small' })).toThrow('--fit takes megabytes')
    expect(() => settingsFor(project, reel!.id, { speed: 'warp' })).toThrow('--speed is quick, even or thorough')
  })
})
