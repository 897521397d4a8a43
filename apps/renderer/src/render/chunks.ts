import { createHash } from 'node:crypto'
import { pairs } from 'd3-array'
import {
  clipEnd,
  trackClips,
  frameToTicks,
  ticksToFrame,
  tracksOf,
  type FramePlan,
  type LayerPlan,
  type Project,
  type Rate,
} from '@dusk/timeline'
import type { PictureEncoding } from '@dusk/media'
import { layerFrame } from './drawFrame'
import { madeFileOf, type SourceBook } from './sources'

/** A stretch of output frames, half-open. */
export interface Chunk {
  first: number
  end: number
}

/** Length that chunks are cut to where there is no cut near, and how far from it a cut may lie, in seconds. */
const TARGET = 4
const LEAST = 2
const MOST = 6

/** Output frames at which a picture begins or ends. */
export function cutFrames(project: Project, reelId: string, from: number, rate: Rate): number[] {
  const lanes = trackClips(project)
  const cuts = new Set<number>()
  for (const track of tracksOf(project, reelId)) {
    if (track.kind !== 'picture' || track.hidden) continue
    for (const clip of lanes.get(track.id) ?? [])
      for (const at of [clip.start, clipEnd(clip)]) cuts.add(ticksToFrame(at - from, rate))
  }
  return [...cuts].sort((a, b) => a - b)
}

/**
 * Chunks of a render of which some stretches are copied: those, and what lies between. That ends at each cut, however
 * short it is: the rest of a shot is encoded straight from its film.
 */
export function planAround<T extends Chunk>(
  frames: number,
  cuts: readonly number[],
  rate: Rate,
  copies: readonly T[],
): (Chunk | T)[] {
  const chunks: (Chunk | T)[] = []
  let at = 0
  const between = (end: number) => {
    const inside = copies.length > 0 ? cuts.filter((cut) => cut > at && cut < end) : []
    for (const [first, last] of pairs([at, ...inside, end])) {
      const own = copies.length > 0 ? [] : cuts.map((cut) => cut - first)
      for (const chunk of planChunks(last - first, own, rate))
        chunks.push({ first: chunk.first + first, end: chunk.end + first })
    }
  }
  for (const copy of copies) {
    between(copy.first)
    chunks.push(copy)
    at = copy.end
  }
  between(frames)
  return chunks
}

/**
 * Cuts a range into chunks of about four seconds, at cuts where one is near: a change in one shot then leaves the
 * chunks of others as they were, also when they move.
 */
export function planChunks(frames: number, cuts: readonly number[], rate: Rate): Chunk[] {
  const second = rate.num / rate.den
  const chunks: Chunk[] = []
  let first = 0
  while (first < frames) {
    const ideal = first + Math.round(TARGET * second)
    let end = ideal
    let best = Infinity
    for (const cut of cuts) {
      if (cut < first + LEAST * second || cut > first + MOST * second) continue
      if (Math.abs(cut - ideal) < best) {
        best = Math.abs(cut - ideal)
        end = cut
      }
    }
    if (frames - end < LEAST * second) end = frames
    chunks.push({ first, end: Math.min(end, frames) })
    first = end
  }
  return chunks
}

/** Name of a chunk's file: a hash of everything its bytes depend on. */
export function chunkKey(
  plans: Iterable<FramePlan>,
  book: SourceBook,
  encoding: PictureEncoding,
  engine: string,
): string {
  const hash = createHash('sha256')
  hash.update(JSON.stringify({ engine, encoding }))
  for (const plan of plans) {
    hash.update(JSON.stringify(planContent(plan, book)))
  }
  return hash.digest('hex')
}

/** Name of the file of a chunk that is copied. */
export function copyKey(
  { hash, frame, frames }: { hash: string; frame: number; frames: number },
  { rate }: Pick<PictureEncoding, 'rate'>,
  engine: string,
): string {
  return createHash('sha256')
    .update(JSON.stringify({ engine, copied: [hash, frame, frames, rate] }))
    .digest('hex')
}

/** What a plan's pixels depend on: sources by content and frame number, not by id and time. */
function planContent(plan: FramePlan, book: SourceBook): unknown {
  const layers = plan.layers.map((layer) => layerContent(layer, book))
  return [plan.width, plan.height, plan.background, layers, plan.effects]
}

function layerContent(layer: LayerPlan | null, book: SourceBook): unknown {
  switch (layer?.kind) {
    case 'picture': {
      const { assetId, time: _, made: __, beside: times, ...rest } = layer
      const made = madeFileOf(layer, book)
      const beside = times?.map((time) => layerFrame({ ...layer, made: undefined, time }, book))
      return { ...rest, beside, hash: made?.file.key ?? book.get(assetId)!.hash, frame: layerFrame(layer, book) }
    }
    case 'reel':
      return { ...layer, plan: planContent(layer.plan, book) }
    case 'transition':
      return { ...layer, from: layerContent(layer.from, book), to: layerContent(layer.to, book) }
    default:
      return layer
  }
}

/** Reel position of an output frame. */
export function frameTick(from: number, frame: number, rate: Rate): number {
  return from + frameToTicks(frame, rate)
}
