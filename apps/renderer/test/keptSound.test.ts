import { execFileSync } from 'node:child_process'
import { readdirSync, rmSync } from 'node:fs'
import { join } from 'node:path'
import { afterAll, afterEach, beforeAll, describe, expect, it, vi } from 'vitest'
import { Mixer } from '@dusk/sound'
import type { RenderSettings } from '@dusk/store'
import { createProject, frameToTicks, reelsOf, tracksOf, type Project } from '@dusk/timeline'
import { perform, testStore } from './store'

const RATE = { num: 30_000, den: 1001 }
const FRAMES = 60
const { dir, storage, enter, renderTo, remove } = testStore('sounds')
let base: Project
afterAll(remove)
afterEach(() => vi.restoreAllMocks())

beforeAll(async () => {
  const path = join(dir, 'quay.mp4')
  execFileSync('ffmpeg', [
    ...`-v error -f lavfi -i testsrc2=s=64x36:r=30000/1001 -f lavfi -i sine=330 -frames:v ${FRAMES} -t 2.002`.split(
      ' ',
    ),
    ...'-c:v libx264 -preset ultrafast -pix_fmt yuv420p -colorspace bt709 -c:a aac'.split(' '),
    path,
  ])
  const id = crypto.randomUUID()
  base = await enter(createProject('Sounds', { width: 64, height: 36, rate: RATE }), id, 'quay', path)
  const piece = (kind: 'picture' | 'sound') => ({
    ...{
      clipId: crypto.randomUUID(),
      assetId: id,
      stream: kind === 'sound' ? 0 : null,
      start: 0,
      source: 0,
      link: null,
    },
    trackId: tracksOf(base, reelsOf(base)[0]!.id).find((track) => track.kind === kind)!.id,
    length: frameToTicks(FRAMES, RATE),
  })
  base = perform(base, { type: 'place', mode: 'free', pieces: [piece('picture'), piece('sound')] })
})

let files = 0
/** Renders with sound. @returns also whether anything was mixed for it, and what is heard in the file */
async function render(project: Project, change: Partial<RenderSettings> = {}) {
  const mixing = vi.spyOn(Mixer.prototype, 'render')
  const settings = { width: 64, height: 36, rate: RATE, sound: true, ...change }
  const { out, report } = await renderTo(
    `sounds-${++files}.${change.format === 'wav' ? 'wav' : 'mp4'}`,
    project,
    settings,
  )
  const mixed = mixing.mock.calls.length > 0
  mixing.mockRestore()
  const heard = execFileSync('ffmpeg', ['-v', 'error', '-i', out, ...'-map 0:a -f md5 -'.split(' ')]).toString()
  return { ...report, mixed, heard }
}
const clipsOf = (kind: 'picture' | 'sound') =>
  Object.values(base.clips).flatMap((clip) => (base.tracks[clip.trackId]!.kind === kind ? [clip.id] : []))

describe('the sound of a render', () => {
  it('is mixed once, however often only the picture changes', async () => {
    const first = await render(base)
    expect(first.mixed).toBe(true)
    const again = await render(perform(base, { type: 'setParams', clipIds: clipsOf('picture'), set: { opacity: 60 } }))
    expect(again).toMatchObject({ mixed: false, loudness: first.loudness, peak: first.peak, heard: first.heard })
    expect(again.reused).toBe(0)
  })

  it('is mixed anew for whatever would be heard', async () => {
    const first = await render(base)
    const quiet = await render(perform(base, { type: 'setClips', clipIds: clipsOf('sound'), set: { gain: -12 } }))
    expect(quiet.mixed).toBe(true)
    expect(quiet.loudness).toBeCloseTo(first.loudness! - 12, 0)
    for (const change of [
      { loudness: -20 },
      { quality: 'best' },
      { format: 'wav' },
      { range: { from: 0, to: frameToTicks(30, RATE) } },
      { range: { from: frameToTicks(30, RATE), to: frameToTicks(60, RATE) } },
    ] as Partial<RenderSettings>[]) {
      expect((await render(base, change)).mixed, JSON.stringify(change)).toBe(true)
      expect((await render(base, change)).mixed, JSON.stringify(change)).toBe(false)
    }
  })

  it('is mixed anew where what was kept is gone, or half of it', async () => {
    const first = await render(base)
    const chunks = storage.path('chunks')
    for (const ending of ['.sound', '.json']) {
      for (const name of readdirSync(chunks, { recursive: true }) as string[])
        if (name.endsWith(ending)) rmSync(join(chunks, name))
      expect(await render(base)).toMatchObject({ mixed: true, heard: first.heard })
      expect(await render(base)).toMatchObject({ mixed: false, heard: first.heard })
    }
  })
})
