import { applyDelta, planSound, SAMPLE_RATE, TICKS_PER_SAMPLE, type Project, type SoundPlan } from '@dusk/timeline'
import { mixRange, soundByteRange, varispeed, type SoundReader } from '@dusk/sound'
import { CONTROL, openRing, ringSpace, writeRing, type Ring } from './ring'
import type { MixReply, MixRequest, Sources } from './messages'

/** Samples mixed at a time, and how far ahead of the listener the ring is kept filled. */
const BLOCK = 4_800
const AHEAD = 36_000
/** Samples of source fetched at a time, and how many such pieces are kept. */
const PIECE = SAMPLE_RATE
const KEPT_PIECES = 240

let ring: Ring | null = null
let project: Project | null = null
let reelId = ''
let sources: Sources = {}
let order: { start: number; speed: number; run: number } | null = null
/** Output samples mixed since play began. */
let mixed = 0
let plan: SoundPlan | null = null
let backgroundFill = false
const pieces = new Map<string, Promise<Float32Array>>()

function piece(url: string, index: number, channels: number, samples: number): Promise<Float32Array> {
  const key = `${url}/${index}`
  let found = pieces.get(key)
  if (found) {
    pieces.delete(key)
  } else {
    const count = Math.min(PIECE, samples - index * PIECE)
    const { start, end } = soundByteRange(channels, index * PIECE, count)
    found = fetch(url, { headers: { range: `bytes=${start}-${end - 1}` } }).then(async (response) => {
      if (!response.ok) throw new Error(`The sound of a source could not be fetched (${response.status}).`)
      return new Float32Array(await response.arrayBuffer())
    })
    found.catch(() => pieces.delete(key))
  }
  pieces.set(key, found)
  if (pieces.size > KEPT_PIECES) pieces.delete(pieces.keys().next().value!)
  return found
}

const read: SoundReader = async (assetId, stream, from, count) => {
  const sound = sources[assetId]?.sounds[stream]
  const channels = sound?.channels ?? 1
  // A source whose sound is not there yet is silent; it is heard as soon as it is.
  if (!sound?.ready) return { channels, samples: new Float32Array(0) }
  const end = Math.min(from + count, sound.samples)
  const out = new Float32Array(Math.max(0, end - from) * channels)
  for (let at = from; at < end;) {
    const index = Math.floor(at / PIECE)
    const part = await piece(sound.url, index, channels, sound.samples)
    const offset = at - index * PIECE
    const take = Math.min(end - at, PIECE - offset)
    out.set(part.subarray(offset * channels, (offset + take) * channels), (at - from) * channels)
    at += take
  }
  return { channels, samples: out }
}

/** Mixes `count` output samples from the place play has reached. */
async function block(count: number): Promise<Float32Array> {
  const { start, speed } = order!
  const first = Math.round(start / TICKS_PER_SAMPLE) + mixed * speed
  if (speed === 1) return first >= 0 ? mixRange(plan!, first, count, read) : new Float32Array(count * 2)
  const last = first + (count - 1) * speed
  const low = Math.max(0, Math.floor(Math.min(first, last)))
  const high = Math.max(low + 2, Math.ceil(Math.max(first, last)) + 2)
  return varispeed(await mixRange(plan!, low, high - low, read), first - low, speed, count)
}

async function fill(): Promise<void> {
  if (backgroundFill) return
  backgroundFill = true
  try {
    while (order && ring && plan) {
      const waiting = Atomics.load(ring.control, CONTROL.written) - Atomics.load(ring.control, CONTROL.played)
      if (waiting >= AHEAD || ringSpace(ring) < BLOCK) break
      const was = order
      const samples = await block(BLOCK)
      if (order !== was) continue
      for (let i = 0; i < samples.length; i++) samples[i] = Math.max(-1, Math.min(1, samples[i]!))
      writeRing(ring, samples)
      mixed += BLOCK
      if (mixed === BLOCK * 2) say({ kind: 'filled', run: order.run })
    }
  } catch (error) {
    say({ kind: 'failed', message: (error as Error).message })
  } finally {
    backgroundFill = false
  }
}

function say(reply: MixReply): void {
  postMessage(reply)
}

function replan(): void {
  // The whole day: pieces are looked up by time, so a longer plan costs nothing.
  plan = project?.reels[reelId] ? planSound(project, reelId, 0, 24 * 3600 * SAMPLE_RATE * TICKS_PER_SAMPLE) : null
}

setInterval(() => void fill(), 40)

self.onmessage = ({ data }: MessageEvent<MixRequest>) => {
  switch (data.kind) {
    case 'start':
      ring = openRing(data.ring)
      return
    case 'document':
      project = applyDelta(project, data.delta)
      reelId = data.reelId
      replan()
      return
    case 'sources':
      sources = data.sources
      return
    case 'play':
      order = { start: data.start, speed: data.speed, run: data.run }
      mixed = 0
      void fill()
      return
    case 'pause':
      order = null
  }
}
