import {
  applyDelta,
  planSound,
  SAMPLE_RATE,
  sameData,
  TICKS_PER_SAMPLE,
  type Project,
  type SoundPlan,
} from '@dusk/timeline'
import { pieceSources, setVoiceModelUrl, stretchEngines } from '@dusk/sound'
import voiceWasm from '@echogarden/rnnoise-wasm/rnnoise.wasm?url'
import crispWasm from '@echogarden/sonic-wasm/sonic.wasm?url'
import {
  extractSound,
  findVoice,
  fitSound,
  learnNoise,
  measureSound,
  type SoundAnswer,
  type SoundTask,
} from './mixTasks'
import { MixMeters } from './mixMeters'
import { beginRun, type MixRun } from './mixRun'
import { PcmCache } from './pcmCache'
import { CONTROL, openRing, overwriteRing, ringSpace, writeRing, type Ring } from './ring'
import type { MixReply, MixRequest } from './messages'

/** Samples mixed at a time, and how far ahead of the listener the ring is kept filled. */
const BLOCK = 4_800
const AHEAD = 36_000
/** Samples ahead of the listener from which a change is heard, and over which the old passes into the new. */
const MARGIN = 2_400
const PASSING = 480
/** What is heard of a place that is only looked at: 90 ms. */
const GRAIN = 4_320
/** Steps in which a grain is faded. */
const GRAIN_FADE = 960

let ring: Ring | null = null
let project: Project | null = null
let reelId = ''
let plan: SoundPlan | null = null
/** What is to be heard: which play, from where, how fast. */
let order: { start: number; speed: number; run: number } | null = null
let run: MixRun | null = null
/** Output samples given to the ring since play began. */
let mixed = 0
/** Whether the listener was told that there is enough to begin with. */
let told = false
/** A change that is not heard yet. */
let changed = false
let busy = false

const pcm = new PcmCache()
setVoiceModelUrl(voiceWasm)
const engines = stretchEngines(crispWasm)
/** For playing faster: the engines of the clips are busy with those. */
const swift = stretchEngines(crispWasm)
const sourceOf = pieceSources(pcm.read, engines, (assetId, stream) => {
  const sound = pcm.sources[assetId]?.sounds[stream]
  return sound?.ready ? sound.url : null
})
const meters = new MixMeters(
  (found) => say({ kind: 'meters', meters: found }),
  () => reelId,
)

function say(reply: MixReply): void {
  postMessage(reply)
}

const limited = (samples: Float32Array): Float32Array => {
  for (let i = 0; i < samples.length; i++) samples[i] = Math.max(-1, Math.min(1, samples[i]!))
  return samples
}

const played = () => Atomics.load(ring!.control, CONTROL.played)

async function begin(): Promise<void> {
  const was = order!
  meters.begin(was.run, Math.round(was.start / TICKS_PER_SAMPLE))
  const fresh = await beginRun(plan!, sourceOf, swift, meters, was)
  if (order !== was) return fresh.release()
  run = fresh
}

/** Mixes anew from a little ahead of what is heard: what was in the ring beyond that gives way. */
async function refill(): Promise<void> {
  changed = false
  const was = order!
  const { start, speed } = was
  if (mixed === 0 || !plan) {
    run?.release()
    run = null
    return
  }
  const from = Math.min(mixed, played() + MARGIN)
  const place = Math.max(0, start + Math.round(from * speed * TICKS_PER_SAMPLE))
  meters.resume(Math.round(place / TICKS_PER_SAMPLE))
  const fresh = await beginRun(plan, sourceOf, swift, meters, { start: place, speed, brief: true })
  if (order !== was || changed) return fresh.release()
  // Working it out took a while: what the listener has passed by then is left out.
  let at = from
  let samples = await fresh.render(BLOCK)
  while (order === was && at + samples.length / 2 < played() + MARGIN / 2) {
    at += samples.length / 2
    samples = await fresh.render(BLOCK)
  }
  if (order !== was) return fresh.release()
  overwriteRing(ring!, limited(samples), at, PASSING)
  mixed = at + samples.length / 2
  run?.release()
  run = fresh
}

async function fill(): Promise<void> {
  if (busy) return
  busy = true
  try {
    while (order && ring && plan) {
      if (changed) await refill()
      if (!order || !plan) break
      if (!run) await begin()
      const waiting = mixed - played()
      if (waiting >= AHEAD || ringSpace(ring) < BLOCK) break
      const was = order
      const samples = run ? await run.render(BLOCK) : null
      if (order !== was || !samples) continue
      writeRing(ring, limited(samples))
      mixed += BLOCK
      if (told || mixed < BLOCK * 2) continue
      told = true
      say({ kind: 'filled', run: was.run })
    }
  } catch (error) {
    say({ kind: 'failed', message: (error as Error).message })
  } finally {
    busy = false
  }
}

/** A short piece of sound at a place, for looking for it by ear. */
async function grain(at: number, id: number): Promise<void> {
  if (!plan || !ring || order) return
  const found = await beginRun(plan, sourceOf, swift, undefined, { start: at, speed: 1, brief: true })
  const samples = limited(await found.render(GRAIN))
  found.release()
  if (order) return
  for (let i = 0; i < GRAIN_FADE; i++)
    for (const k of [i, GRAIN - 1 - i]) {
      samples[k * 2]! *= i / GRAIN_FADE
      samples[k * 2 + 1]! *= i / GRAIN_FADE
    }
  writeRing(ring, samples)
  say({ kind: 'filled', run: id })
}

function answered(wanted: SoundTask, progress: (part: number) => void): Promise<SoundAnswer> {
  switch (wanted.kind) {
    case 'learn':
      return learnNoise(pcm.read, wanted)
    case 'fit':
      return fitSound(pcm.read, wanted, progress)
    case 'measure':
      return measureSound(project!, reelId, wanted, sourceOf, progress)
    case 'extract':
      return extractSound(project!, reelId, wanted, sourceOf, progress)
    case 'voice':
      return findVoice(project!, reelId, wanted, sourceOf, progress)
  }
}

async function task(id: number, wanted: SoundTask): Promise<void> {
  try {
    const progress = (part: number) => say({ kind: 'progress', id, part })
    const answer = await answered(wanted, progress)
    say({ kind: 'answer', id, answer })
  } catch (error) {
    say({ kind: 'answer', id, answer: { error: (error as Error).message } })
  }
}

function replan(): void {
  // The whole day: pieces are looked up by time, so a longer plan costs nothing.
  const next = project?.reels[reelId] ? planSound(project, reelId, 0, 24 * 3600 * SAMPLE_RATE * TICKS_PER_SAMPLE) : null
  // What is done to pictures is no reason to mix anew.
  if (sameData(next, plan)) return
  plan = next
  changed = true
}

function stop(): void {
  order = null
  run?.release()
  run = null
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
      void fill()
      return
    case 'sources':
      pcm.sources = data.sources
      changed = true
      return
    case 'watch':
      meters.watched = data.id
      return
    case 'play':
      stop()
      order = { start: data.start, speed: data.speed, run: data.run }
      mixed = 0
      told = changed = false
      void fill()
      return
    case 'grain':
      void grain(data.at, data.run)
      return
    case 'task':
      void task(data.id, data.task)
      return
    case 'pause':
      stop()
  }
}
