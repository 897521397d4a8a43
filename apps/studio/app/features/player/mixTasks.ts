import { planSound, SAMPLE_RATE, TICKS_PER_SAMPLE, reelLength, type Project, type SoundPlan } from '@dusk/timeline'
import {
  fitLength,
  Loudness,
  Mixer,
  noisePrint,
  stereoReader,
  WAV_MOST,
  wavHeader,
  wavSamples,
  type FittedLength,
  type SoundReader,
  type SourceOf,
} from '@dusk/sound'

/** What of a reel is measured: some clips by themselves, a stretch of it, or all. */
export interface MeasureTask {
  kind: 'measure'
  /** Clips heard alone, without what tracks and the reel do to them. */
  clipIds?: string[]
  range?: { from: number; to: number }
}

/** A stretch of a source in which only its noise is heard; without one, its quietest second is looked for. */
export interface LearnTask {
  kind: 'learn'
  assetId: string
  stream: number
  /** Samples of the source. */
  from: number
  to: number
}

/** Where somebody speaks on some tracks. */
export interface VoiceTask {
  kind: 'voice'
  trackIds: string[]
}

/** What is heard as a file: some clips by themselves, a stretch of the reel, or all. */
export interface ExtractTask extends Omit<MeasureTask, 'kind'> {
  kind: 'extract'
}

/** A sound brought to a length. */
export interface FitTask {
  kind: 'fit'
  assetId: string
  stream: number
  /** Samples of the source that may be used. */
  from: number
  to: number
  /** Wished length in samples. */
  target: number
}

export type SoundTask = MeasureTask | LearnTask | VoiceTask | ExtractTask | FitTask

/** Loudness in LUFS, peaks in decibels; `null` where there is nothing to measure. */
export interface Measured {
  integrated: number | null
  range: number | null
  shortTermMost: number | null
  truePeak: number
  peak: number
}

export type SoundAnswer =
  Blob | Measured | FittedLength | { print: string } | { spoken: { from: number; to: number }[] } | { error: string }

/** A plan with some clips alone. */
function alone(project: Project, reelId: string, clipIds: readonly string[]): { plan: SoundPlan; from: number } {
  const clips = clipIds.map((id) => project.clips[id]).filter((clip) => clip !== undefined)
  const wanted = new Set(clipIds)
  const only = Object.fromEntries(Object.entries(project.clips).filter(([id]) => wanted.has(id)))
  const tracks = Object.fromEntries(
    Object.entries(project.tracks).map(([id, track]) => [
      id,
      track.reelId === reelId ? { ...track, muted: false, solo: false, gain: 0, params: {} } : track,
    ]),
  )
  const effects = Object.fromEntries(Object.entries(project.effects).filter(([, { ownerId }]) => wanted.has(ownerId)))
  const reels = { ...project.reels, [reelId]: { ...project.reels[reelId]!, gain: 0, params: {} } }
  // Nested reels need their clips; those of this reel that were not asked for are left out.
  const inner = Object.fromEntries(
    Object.entries(project.clips).filter(([, clip]) => project.tracks[clip.trackId]?.reelId !== reelId),
  )
  const from = Math.min(...clips.map((clip) => clip.start))
  const to = Math.max(...clips.map((clip) => clip.start + clip.length))
  const part = { ...project, clips: { ...inner, ...only }, tracks, effects, reels }
  return { plan: planSound(part, reelId, 0, to), from }
}

/** Mixes what a task is about, as fast as it can be mixed, a second at a time. */
async function mixedWhole(
  project: Project,
  reelId: string,
  { clipIds, range }: Omit<MeasureTask, 'kind'>,
  sourceOf: SourceOf,
  progress: (part: number) => void,
  take: (block: Float32Array) => void,
): Promise<number> {
  const { plan, from } = clipIds
    ? alone(project, reelId, clipIds)
    : { plan: planSound(project, reelId, 0, range?.to ?? reelLength(project, reelId)), from: range?.from ?? 0 }
  const mixer = new Mixer(plan, sourceOf)
  const first = Math.round(from / TICKS_PER_SAMPLE)
  await mixer.seek(first)
  for (let at = first; at < plan.length; at += SAMPLE_RATE) {
    take(await mixer.render(Math.min(SAMPLE_RATE, plan.length - at)))
    progress((at - first) / Math.max(1, plan.length - first))
    // Play and its fills come first.
    await new Promise((resolve) => setTimeout(resolve))
  }
  mixer.release()
  return Math.max(0, plan.length - first)
}

/** Measures what is heard. */
export async function measureSound(
  project: Project,
  reelId: string,
  task: MeasureTask,
  sourceOf: SourceOf,
  progress: (part: number) => void,
): Promise<Measured> {
  const loudness = new Loudness()
  await mixedWhole(project, reelId, task, sourceOf, progress, (block) => loudness.push(block))
  return loudness.result()
}

/** What is heard as a WAV file of 24 bits. @throws {Error} when it is longer than such a file can be */
export async function extractSound(
  project: Project,
  reelId: string,
  task: ExtractTask,
  sourceOf: SourceOf,
  progress: (part: number) => void,
): Promise<Blob> {
  const parts: Uint8Array<ArrayBuffer>[] = []
  const samples = await mixedWhole(project, reelId, task, sourceOf, progress, (block) =>
    parts.push(wavSamples(block) as Uint8Array<ArrayBuffer>),
  )
  if (samples > WAV_MOST) throw new Error('A WAV file holds at most six hours. Mark a shorter range.')
  return new Blob([wavHeader(samples) as Uint8Array<ArrayBuffer>, ...parts], { type: 'audio/wav' })
}

/** Longest sound that is brought to another length: twenty minutes. */
const FIT_MOST = SAMPLE_RATE * 1200

/** Finds how a sound is brought to a length. @throws {Error} in words */
export async function fitSound(
  read: SoundReader,
  { assetId, stream, from, to, target }: FitTask,
  progress: (part: number) => void,
): Promise<FittedLength> {
  if (to - from > FIT_MOST) throw new Error('Only twenty minutes at a time can be brought to another length.')
  const stereo = stereoReader(read, assetId, stream)
  const mono = new Float32Array(to - from)
  for (let at = 0; at < mono.length; at += SAMPLE_RATE * 10) {
    const block = await stereo(from + at, Math.min(SAMPLE_RATE * 10, mono.length - at))
    for (let i = 0; i < block.length / 2; i++) mono[at + i] = (block[i * 2]! + block[i * 2 + 1]!) / 2
    progress((0.2 * at) / mono.length)
  }
  const fitted = fitLength(mono, target, (part) => progress(0.2 + 0.8 * part))
  return { ...fitted, parts: fitted.parts.map((part) => ({ from: part.from + from, to: part.to + from })) }
}

/** Learns what noise sounds like. */
export async function learnNoise(read: SoundReader, { assetId, stream, from, to }: LearnTask) {
  const stereo = stereoReader(read, assetId, stream)
  const mono = (block: Float32Array) =>
    Float32Array.from({ length: block.length / 2 }, (_, i) => (block[i * 2]! + block[i * 2 + 1]!) / 2)
  // Not more than three minutes are gone through.
  const samples = mono(await stereo(from, Math.min(to - from, SAMPLE_RATE * 180)))
  const window = Math.min(SAMPLE_RATE / 2, samples.length)
  let [best, least] = [0, Infinity]
  for (let at = 0; at + window <= samples.length; at += SAMPLE_RATE / 10) {
    let sum = 0
    for (let i = at; i < at + window; i += 4) sum += samples[i]! ** 2
    // Digital silence is no noise.
    if (sum > 1e-9 && sum < least) [best, least] = [at, sum]
  }
  if (least === Infinity) throw new Error('There is nothing but silence here, so there is no noise to learn.')
  return { print: noisePrint(samples.subarray(best, best + window)) }
}

/** Samples over which a level is taken, and how far apart. */
const WINDOW = 960

/**
 * Finds where tracks are heard above their own quiet: windows of 20 ms, open above the noise floor (the 8th percentile)
 * and 45 % of the way to the loud (the 95th), at least 6 and at most 14 dB above it.
 */
export async function findVoice(
  project: Project,
  reelId: string,
  { trackIds }: VoiceTask,
  sourceOf: SourceOf,
  progress: (part: number) => void,
): Promise<{ spoken: { from: number; to: number }[] }> {
  const wanted = new Set(trackIds)
  const whole = planSound(project, reelId, 0, reelLength(project, reelId))
  const plan: SoundPlan = {
    ...whole,
    pieces: whole.pieces.filter((piece) => wanted.has(whole.tracks[piece.track]!.id)),
    reel: { gain: 0 },
  }
  const mixer = new Mixer(plan, sourceOf)
  const levels: number[] = []
  for (let at = 0; at < plan.length; at += SAMPLE_RATE) {
    const block = await mixer.render(Math.min(SAMPLE_RATE, plan.length - at))
    for (let i = 0; i < block.length; i += WINDOW * 2) {
      let sum = 0
      const end = Math.min(i + WINDOW * 2, block.length)
      for (let k = i; k < end; k++) sum += block[k]! * block[k]!
      levels.push(10 * Math.log10(Math.max(sum / (end - i), 1e-10)))
    }
    progress(at / plan.length)
    await new Promise((resolve) => setTimeout(resolve))
  }
  mixer.release()
  const sorted = levels.filter((level) => level > -90).sort((a, b) => a - b)
  if (sorted.length === 0) return { spoken: [] }
  const at = (part: number) => sorted[Math.floor((sorted.length - 1) * part)]!
  const floor = at(0.08)
  // A recording without pauses has no quiet of its own to stand out from.
  const open = Math.max(-60, Math.min(floor + Math.min(14, Math.max(6, (at(0.95) - floor) * 0.45)), at(0.95) - 12))
  const spoken: { from: number; to: number }[] = []
  for (const [i, level] of levels.entries()) {
    if (level < open) continue
    const [from, to] = [i * WINDOW * TICKS_PER_SAMPLE, (i + 1) * WINDOW * TICKS_PER_SAMPLE]
    const last = spoken.at(-1)
    if (last && from - last.to <= WINDOW * 12 * TICKS_PER_SAMPLE) last.to = to
    else spoken.push({ from, to })
  }
  return { spoken }
}
