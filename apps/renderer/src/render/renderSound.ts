import { deliveryOf } from '@dusk/interchange'
import { SoundEncoder } from '@dusk/media'
import { Loudness, Mixer, pieceSources, StretchFailed, stretchEngines, type SourceOf } from '@dusk/sound'
import { formatTimecode, frameToTicks, planSound, SAMPLE_RATE, TICKS_PER_SAMPLE, type SoundPlan } from '@dusk/timeline'
import { RenderFailed, type RenderSubject } from './request'
import { SoundFiles } from './soundFiles'

/** Loaded once for every render of this process. */
const engines = stretchEngines()

/** True peak that a render brought to a loudness is held at, in decibels. */
const CEILING = -1

/**
 * A plan brought to a loudness: louder or quieter as a whole, and held at the ceiling between samples too.
 * @param by decibels
 */
function brought(plan: SoundPlan, by: number): SoundPlan {
  const limit = { id: 'ceiling', kind: 'limiter', settings: { ceiling: CEILING }, strength: 100 }
  return {
    length: plan.length,
    start: plan.start,
    tracks: [{ id: 'whole', purpose: 'effects', gain: 0 }],
    pieces: [
      {
        ...{ assetId: 'whole', stream: 0, track: 0, at: 0, length: plan.length, from: 0, clock: plan.start },
        nested: plan,
        gain: by,
      },
    ],
    reel: { gain: 0, effects: [limit] },
  }
}

/**
 * Samples that are mixed at a time: few enough for the encoder's pipe to hold, so that it has something to read while
 * the next ones are mixed.
 */
const BLOCK = SAMPLE_RATE / 4

/** Mixes a plan from a sample on, block by block. */
async function mixed(
  plan: SoundPlan,
  first: number,
  sourceOf: SourceOf,
  signal: AbortSignal | undefined,
  take: (block: Float32Array) => Promise<void> | void,
): Promise<void> {
  const mixer = new Mixer(plan, sourceOf)
  try {
    await mixer.seek(first)
    for (let at = first; at < plan.length; at += BLOCK) {
      signal?.throwIfAborted()
      await take(await mixer.render(Math.min(BLOCK, plan.length - at)))
    }
  } finally {
    mixer.release()
  }
}

/** What was measured of a mix: integrated loudness in LUFS, and the highest true peak as a factor of full scale. */
export interface RenderedSound {
  loudness: number | null
  peak: number
}

/** The plan of the sound of a range, and the sample of it that is the range's first. */
export function rangePlan(
  { project, reelId, settings }: Pick<RenderSubject, 'project' | 'reelId' | 'settings'>,
  from: number,
  frames: number,
): { plan: SoundPlan; first: number } {
  // From the reel's start, so that what began before the range is heard in it: tails, echoes, slow gates.
  const plan = planSound(project, reelId, 0, from + frameToTicks(frames, settings.rate))
  return { plan, first: Math.round(from / TICKS_PER_SAMPLE) }
}

/** What the ceiling takes away is made up for to within so many LU, in at most so many tries. */
const NEAR = 0.05
const TRIES = 4

/**
 * A plan brought to a loudness. Where the ceiling holds peaks down, that takes of its loudness: it is measured again
 * and brought nearer, as far as that helps.
 */
async function broughtTo(
  plan: SoundPlan,
  target: number,
  measured: (plan: SoundPlan) => Promise<{ now: number | null; peak: number }>,
): Promise<SoundPlan> {
  const { now, peak } = await measured(plan)
  if (now === null) return plan
  let by = target - now
  if (20 * Math.log10(Math.max(peak, 1e-9)) + by <= CEILING) return brought(plan, by)
  for (let n = 0; n < TRIES; n++) {
    const came = (await measured(brought(plan, by))).now
    if (came === null || Math.abs(target - came) <= NEAR) break
    by += target - came
  }
  return brought(plan, by)
}

/** Which clip's sound can't be stretched, and what can be done about it. */
function unstretched({ project, reelId }: RenderSubject, { piece }: StretchFailed): string {
  const name = project.assets[piece.assetId]?.name ?? 'A nested reel'
  const at = formatTimecode(Math.max(0, piece.at) * TICKS_PER_SAMPLE, project.reels[reelId]!.format.rate)
  return (
    `The sound of “${name}” at ${at} can’t be stretched to its speed. ` +
    'Let its pitch go with the speed, choose the other character for it, or silence it, and render again.'
  )
}

/**
 * Mixes the sound of a range into a file; where a loudness is wanted it is measured before and brought to it.
 */
export async function renderSound(
  request: RenderSubject,
  from: number,
  frames: number,
  out: string,
): Promise<RenderedSound> {
  const { settings, book, storage, signal } = request
  const range = rangePlan(request, from, frames)
  const { first } = range
  let { plan } = range
  const files = new SoundFiles(storage, book)
  const sourceOf = pieceSources(files.read, engines, (id, stream) => `${book.get(id)!.hash}/${stream}`)
  const encoder = new SoundEncoder(out, deliveryOf(settings.format).sound ?? 'aac', settings.quality)
  const loudness = new Loudness()
  try {
    if (settings.loudness !== null && settings.loudness !== undefined) {
      const measured = async (what: SoundPlan) => {
        const found = new Loudness()
        await mixed(what, first, sourceOf, signal, (block) => found.push(block))
        return { now: found.integrated(), peak: found.truePeak }
      }
      plan = await broughtTo(plan, settings.loudness, measured)
    }
    await mixed(plan, first, sourceOf, signal, async (block) => {
      loudness.push(block)
      await encoder.write(block)
    })
    await encoder.finish()
  } catch (error) {
    encoder.abort()
    if (error instanceof StretchFailed) throw new RenderFailed(unstretched(request, error))
    throw error
  } finally {
    await files.close()
  }
  return { loudness: loudness.integrated(), peak: loudness.truePeak }
}
