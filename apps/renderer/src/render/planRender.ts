import { hostname } from 'node:os'
import {
  canCopy,
  canFit,
  deliveryOf,
  HARDWARE_ENCODERS,
  hasBitrate,
  type HardwareId,
  type PictureCodec,
} from '@dusk/interchange'
import { chunkEnding, takesRgba, type ChunkFile, type PictureEncoding, type Storage } from '@dusk/media'
import { frameToTicks, reelLength, ticksToFrame, type Reel } from '@dusk/timeline'
import type { RenderSettings } from '@dusk/store'
import { outputPlans, type ChunkTask, type ChunkWork } from './chunkDrawer'
import { chunkKey, copyKey, cutFrames, planAround, type Chunk } from './chunks'
import { planCopies, type Copy } from './copies'
import { engineName } from './engine'
import { FilmShelf } from './filmShelf'
import { outputShape } from './outputShape'
import { RenderFailed, type RenderSubject } from './request'
import { transcodedFrom } from './transcodes'

/** What a render is made of, worked out from the document alone: every worker comes to the same. */
export interface PlannedRender {
  /** Range on the reel, in ticks. */
  from: number
  to: number
  /** Output frames of the range. */
  frames: number
  /** Output frames that are drawn: one for a still, none for sound alone. */
  seen: number
  work: ChunkWork
  /** All chunks in order, with the files they are kept in. */
  chunks: (ChunkTask & ChunkFile)[]
}

/**
 * Plans a render.
 * @param given films that are open already; without it they are opened, and closed again
 * @throws {RenderFailed} in words where there is nothing to render
 */
export async function planRender(
  { project, reelId, settings, book, storage, signal }: RenderSubject,
  given?: FilmShelf,
): Promise<PlannedRender> {
  const { from, to, frames, reel } = renderRange({ project, reelId, settings })
  const { rate, quality } = settings
  const delivery = deliveryOf(settings.format)
  const fits = Boolean(settings.maxBytes) && canFit(delivery)
  const alpha = (settings.alpha && delivery.alpha && !fits) || undefined
  const shape = outputShape({ ...reel.format, background: reel.background }, settings, settings.fit)
  const aim = hasBitrate(delivery) && settings.bitrate ? { bitrate: settings.bitrate } : {}
  const { speed } = settings
  const codec = delivery.picture ?? 'h264'
  const hardware = hardwareFor(settings, codec)
  const plain: PictureEncoding = { ...shape, rate, codec, quality, alpha, speed, hardware, ...aim }
  // What is to fit into a size is encoded as a whole, once all of it is there.
  const encoding: PictureEncoding = fits ? { ...shape, rate, codec: 'h264', quality: 'best', master: true } : plain
  const seen = delivery.kind === 'still' ? 1 : delivery.picture ? frames : 0
  const work: ChunkWork = { project, reelId, book, from, frames: seen, shape, encoding }
  const copies: Copy[] = []
  if (
    settings.streamCopy &&
    !hardware &&
    canCopy(delivery) &&
    !fits &&
    !encoding.bitrate &&
    !encoding.frame &&
    seen > 0
  ) {
    const films = given ?? new FilmShelf(storage)
    try {
      const planned = await planCopies(work, films, signal)
      if (planned) {
        copies.push(...planned.copies)
        encoding.parameterSet = planned.parameterSet
      }
    } finally {
      if (!given) await films.close()
    }
  }
  const planned = seen > 0 ? planAround(seen, cutFrames(project, reelId, from, rate), rate, copies) : []
  const chunks = await chunkFiles(work, planned, storage, signal)
  work.undrawn = chunks.filter((chunk) => chunk.copied || chunk.transcoded).map(({ first, end }) => ({ first, end }))
  return { from, to, frames, seen, work, chunks }
}

/**
 * The range that a render is of: on the reel in ticks, and in output frames.
 * @throws {RenderFailed} where there is nothing to render
 */
export function renderRange({
  project,
  reelId,
  settings,
}: Pick<RenderSubject, 'project' | 'reelId' | 'settings'>): Pick<PlannedRender, 'from' | 'to' | 'frames'> & {
  reel: Reel
} {
  const reel = project.reels[reelId]
  if (!reel) throw new RenderFailed('The reel to render is no longer in the project.')
  const from = settings.range?.from ?? 0
  const to = Math.min(settings.range?.to ?? Infinity, reelLength(project, reelId))
  const frames = framesBetween(from, to, settings)
  if (frames <= 0) throw new RenderFailed('There is nothing in this reel to render. Put a clip on the timeline first.')
  return { reel, from, to, frames }
}

/** The encoder in hardware that was asked for, where it makes what the file is to hold. */
function hardwareFor({ hardware, alpha }: RenderSettings, codec: PictureCodec): HardwareId | undefined {
  return hardware && !alpha && HARDWARE_ENCODERS[hardware].picture === codec ? hardware : undefined
}

/** The files that the chunks of a render are kept in, by what they show. */
async function chunkFiles(
  work: ChunkWork,
  chunks: readonly (Chunk | Copy)[],
  storage: Storage,
  signal?: AbortSignal,
): Promise<(ChunkTask & ChunkFile)[]> {
  const planAt = outputPlans(work)
  // Another machine's chip makes other bytes of the same frames.
  const name = `${await engineName()}${work.encoding.hardware ? ` ${hostname()}` : ''}`
  const ending = chunkEnding(work.encoding)
  return chunks.map((chunk, n) => {
    signal?.throwIfAborted()
    const { first, end } = chunk
    const copied = 'assetId' in chunk ? { assetId: chunk.assetId, frame: chunk.frame } : undefined
    const plans = copied ? [] : framesOf(chunk).map(planAt)
    const key = copied
      ? copyKey(
          { hash: work.book.get(copied.assetId)!.hash, frame: copied.frame, frames: end - first },
          work.encoding,
          name,
        )
      : chunkKey(plans, work.book, work.encoding, name)
    const from = takesRgba(work.encoding) ? undefined : transcodedFrom(plans, work.book)
    const transcoded = from && { ...from, key: goesOn(chunks[n - 1], from) }
    const path = storage.path('chunks', key.slice(0, 2), `${key}.${ending}`)
    return { n, key, first, end, frames: end - first, path, copied, transcoded }
  })
}

/** Whether a chunk begins where the copy before it ends. */
const goesOn = (before: Chunk | Copy | undefined, { assetId, frame }: { assetId: string; frame: number }) =>
  before !== undefined &&
  'assetId' in before &&
  before.assetId === assetId &&
  before.frame + before.end - before.first === frame

const framesOf = ({ first, end }: Chunk) => Array.from({ length: end - first }, (_, n) => first + n)

/** Output frames that a range holds: the last one begins before its end. */
export function framesBetween(from: number, to: number, { rate }: Pick<RenderSettings, 'rate'>): number {
  if (!(to > from)) return 0
  const whole = ticksToFrame(to - from, rate)
  return whole + (frameToTicks(whole, rate) < to - from ? 1 : 0)
}
