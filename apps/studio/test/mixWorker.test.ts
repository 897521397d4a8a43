import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { documentDelta, tracksOf, type Project } from '@dusk/timeline'
import type { MixReply, MixRequest, WorkerSource } from '~/features/player/messages'
import { CONTROL, createRingMemory, openRing, readRing } from '~/features/player/ring'
import { openDesk } from './tools/desk'
import { SECOND, SONG } from './tools/server'

/** Half a minute of stereo at half of full scale. */
const SAMPLES = 30 * 48_000
const sound: WorkerSource = {
  kind: 'sound',
  picture: null,
  tableUrl: '',
  originalUrl: '',
  stillUrl: null,
  plain: false,
  sounds: [{ channels: 2, samples: SAMPLES, url: '/song.f32', ready: true }],
}

/** Gives a range of the song's file. */
const song = (_: string, { headers }: { headers: { range: string } }) => {
  const [from, to] = headers.range.slice('bytes='.length).split('-').map(Number)
  return Promise.resolve(new Response(new Float32Array((to! + 1 - from!) / 4).fill(0.5).buffer))
}

/** The worker as it runs in the browser, with a reel of twenty seconds of sound. */
async function startWorker(files: unknown = song) {
  const d = await openDesk()
  vi.stubGlobal('fetch', files)
  const [track] = tracksOf(d.project.document!, d.project.reelId).filter(({ kind }) => kind === 'sound')
  const clipId = crypto.randomUUID()
  const piece = { clipId, trackId: track!.id, assetId: SONG.id, stream: 0, start: 0, length: 20 * SECOND, source: 0 }
  d.project.perform({ type: 'place', mode: 'free', pieces: [{ ...piece, link: null }] })

  const said: MixReply[] = []
  let heed: (reply: MixReply) => void = () => undefined
  vi.stubGlobal('postMessage', (reply: MixReply) => {
    said.push(reply)
    heed(reply)
  })
  vi.resetModules()
  await import('~/features/player/mix.worker')
  const send = (data: MixRequest) => self.onmessage!({ data } as MessageEvent)
  const memory = createRingMemory()
  let known: Project | null = null
  const tell = () => {
    send({ kind: 'document', delta: documentDelta(known, d.project.document!), reelId: d.project.reelId })
    known = d.project.document!
  }
  send({ kind: 'start', ring: memory })
  send({ kind: 'sources', sources: { [SONG.id]: sound } })
  tell()
  const quieter = (gain: number) => {
    d.project.perform({ type: 'setClips', clipIds: [clipId], set: { gain } })
    tell()
  }
  const saidOf = (kind: MixReply['kind']) => said.filter((reply) => reply.kind === kind)
  return { send, said: saidOf, onReply: (fn: typeof heed) => (heed = fn), quieter, ring: openRing(memory) }
}

describe('the worker that mixes what is heard', () => {
  beforeEach(() => {
    vi.spyOn(globalThis, 'setInterval').mockReturnValue(0 as never)
  })
  afterEach(() => {
    vi.unstubAllGlobals()
    vi.restoreAllMocks()
  })

  it('fills the ring, and says once that there is enough to begin with', async () => {
    const worker = await startWorker()
    worker.send({ kind: 'play', start: 0, speed: 1, run: 3 })
    await vi.waitFor(() => expect(Atomics.load(worker.ring.control, CONTROL.written)).toBeGreaterThanOrEqual(36_000))
    expect(worker.said('filled')).toEqual([{ kind: 'filled', run: 3 }])
    const [left, right] = [new Float32Array(9600), new Float32Array(9600)]
    readRing(worker.ring, left, right)
    expect([left[5000], right[9000]]).toEqual([0.5, 0.5])
  })

  it('begins also where something is changed while it fills, and plays what it was changed to', async () => {
    const worker = await startWorker()
    let changed = false
    worker.onReply((reply) => {
      if (reply.kind !== 'meters' || changed) return
      changed = true
      worker.quieter(-6)
    })
    worker.send({ kind: 'play', start: 0, speed: 1, run: 4 })
    await vi.waitFor(() => expect(worker.said('filled')).toEqual([{ kind: 'filled', run: 4 }]))
    const [left, right] = [new Float32Array(9600), new Float32Array(9600)]
    readRing(worker.ring, left, right)
    expect(left[9000]).toBeCloseTo(0.5 * 10 ** (-6 / 20), 4)
  })

  it('lets a place be heard that is only looked at, without moving the meters', async () => {
    const worker = await startWorker()
    worker.send({ kind: 'grain', at: 5 * SECOND, run: 9 })
    await vi.waitFor(() => expect(worker.said('filled')).toEqual([{ kind: 'filled', run: 9 }]))
    expect(worker.said('meters')).toEqual([])
    const [left, right] = [new Float32Array(4320), new Float32Array(4320)]
    expect(readRing(worker.ring, left, right)).toBe(4320)
    // It comes up and goes without a click.
    expect([left[0], left[4319]]).toEqual([0, 0])
    expect(left[2160]).toBeCloseTo(0.5, 4)
  })

  it('shows nothing of a place that was looked at on the meters of the play that follows at once', async () => {
    const worker = await startWorker()
    worker.send({ kind: 'grain', at: 5 * SECOND, run: 1 })
    worker.send({ kind: 'play', start: 0, speed: 1, run: 2 })
    await vi.waitFor(() => expect(Atomics.load(worker.ring.control, CONTROL.written)).toBeGreaterThanOrEqual(36_000))
    expect(worker.said('filled')).toEqual([{ kind: 'filled', run: 2 }])
    const heard = worker.said('meters').map((reply) => (reply.kind === 'meters' ? reply.meters.at : 0))
    expect(heard.length).toBeGreaterThan(10)
    expect(Math.max(...heard)).toBeLessThan(48_000)
  })

  it('says why where a sound cannot be fetched', async () => {
    const worker = await startWorker(() => Promise.resolve(new Response('', { status: 503 })))
    worker.send({ kind: 'play', start: 0, speed: 1, run: 1 })
    await vi.waitFor(() => expect(worker.said('failed')[0]).toMatchObject({ message: expect.stringContaining('503') }))
  })
})
