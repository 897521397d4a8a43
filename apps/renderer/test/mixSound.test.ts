import { execFileSync } from 'node:child_process'
import { rmSync } from 'node:fs'
import { join } from 'node:path'
import { afterAll, afterEach, beforeAll, describe, expect, it, vi } from 'vitest'
import { Mixer } from '@dusk/sound'
import type { RenderSettings } from '@dusk/store'
import { createProject, frameToTicks, reelsOf, tracksOf, type Project } from '@dusk/timeline'
import { mixSound } from '../src/render/mixSound'
import { renderSound } from '../src/render/renderSound'
import { soundPath } from '../src/render/soundFiles'
import { perform, testStore } from './store'

const RATE = { num: 30_000, den: 1001 }
/** Longer than what is mixed without a thread. */
const FRAMES = 1800
const { dir, storage, book, enter, remove } = testStore('thread')
const id = crypto.randomUUID()
let project: Project
afterAll(remove)
afterEach(() => vi.restoreAllMocks())

beforeAll(async () => {
  const path = join(dir, 'harbour.flac')
  const noise = 'anoisesrc=d=30:a=0.3:c=pink:seed=4:r=44100'
  execFileSync('ffmpeg', ['-v', 'error', '-f', 'lavfi', '-i', noise, '-ac', '2', path])
  project = await enter(createProject('Thread', { width: 64, height: 36, rate: RATE }), id, 'harbour', path)
  const pieces = [0, 700].map((first) => ({
    ...{ clipId: crypto.randomUUID(), assetId: id, stream: 0, source: 0, link: null },
    ...{ start: frameToTicks(first, RATE), length: frameToTicks(700, RATE) },
    trackId: tracksOf(project, reelsOf(project)[0]!.id).find((track) => track.kind === 'sound')!.id,
  }))
  project = perform(project, { type: 'place', mode: 'free', pieces })
  project = perform(project, { type: 'setClips', clipIds: [pieces[1]!.clipId], set: { gain: -7 } })
})

/** A render's sound at a loudness, so that it is measured, brought there and held at the ceiling. */
function request(signal?: AbortSignal) {
  const settings: RenderSettings = {
    ...{ width: 64, height: 36, rate: RATE, quality: 'good', range: null, sound: true },
    ...{ format: 'wav', loudness: -16 },
  }
  return { project, reelId: reelsOf(project)[0]!.id, settings, book, storage, signal }
}

describe('the sound of a long render', () => {
  it('is mixed on a thread of its own, to the same samples as on this one', async () => {
    const [here, there] = [join(dir, 'here.nut'), join(dir, 'there.nut')]
    const wanted = await renderSound(request(), 0, FRAMES, here)
    const mixing = vi.spyOn(Mixer.prototype, 'render')
    expect(await mixSound(request(), 0, FRAMES, there)).toEqual(wanted)
    expect(mixing).not.toHaveBeenCalled()
    expect(wanted.loudness).toBeCloseTo(-16, 0)
    const samples = (path: string) =>
      execFileSync('ffmpeg', ['-v', 'error', '-i', path, '-f', 'f32le', '-'], { maxBuffer: 2 ** 28 })
    expect(samples(there).equals(samples(here))).toBe(true)
    expect(samples(here).length).toBeGreaterThan(60 * 48_000 * 8 - 1)
  })

  it('ends at once when it is cancelled, and its thread with it', async () => {
    const cancel = new AbortController()
    setTimeout(() => cancel.abort(new Error('enough')), 300)
    await expect(mixSound(request(cancel.signal), 0, FRAMES, join(dir, 'cancelled.nut'))).rejects.toThrow('stopped')
  })

  it('fails for the reason that the thread had', async () => {
    rmSync(soundPath(storage, book.get(id)!.hash, 0))
    await expect(mixSound(request(), 0, FRAMES, join(dir, 'lost.nut'))).rejects.toThrow(/no such file/)
  })
})
