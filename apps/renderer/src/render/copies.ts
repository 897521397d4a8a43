import { descending } from 'd3-array'
import { freeIdentifier, goTogether, mayCopy, type AvcConfig } from '@dusk/media'
import { framesPerSecond, type FramePlan, type SourceMetadata } from '@dusk/timeline'
import type { Chunk } from './chunks'
import { outputPlans, type ChunkWork } from './chunkDrawer'
import type { FilmShelf } from './filmShelf'
import { untouchedFrame } from './transcodes'

/** Where a chunk is copied from: a source, and the number of its first frame there. */
export interface CopiedFrom {
  assetId: string
  frame: number
}

/** Output frames that are copied as they are coded. */
export interface Copy extends Chunk, CopiedFrom {}

/** What of a render is copied, and how the parameter sets of the rest are told from those of the films. */
export interface PlannedCopies {
  copies: Copy[]
  parameterSet: number
}

/** Seconds below which a stretch is not worth a seam. */
const LEAST = 1

/** A stretch of output frames that show those of a source one after the other, untouched. */
interface Run extends Copy {
  hash: string
  metadata: SourceMetadata
}

/**
 * Finds what can be copied: shots that nothing is done to, of films that are coded as the file is to be, from a picture
 * that stands by itself to another. Films whose parameter sets have the identifiers of another's are left out, those
 * that would give the least first.
 * @returns `null` where nothing can be copied
 */
export async function planCopies(
  work: ChunkWork,
  films: FilmShelf,
  signal?: AbortSignal,
): Promise<PlannedCopies | null> {
  const found = new Map<string, { config: AvcConfig; copies: Copy[]; frames: number }>()
  const least = LEAST * framesPerSecond(work.encoding.rate)
  for (const { assetId, hash, metadata, first, end, frame } of untouchedRuns(work)) {
    signal?.throwIfAborted()
    if (end - first < least) continue
    const film = await films.open(hash, metadata)
    const whole = await film?.within(frame, frame + end - first)
    if (!film || !whole || whole.end - whole.first < least) continue
    const from = first + whole.first - frame
    const one = found.get(hash) ?? { config: film.config, copies: [], frames: 0 }
    one.copies.push({ assetId, frame: whole.first, first: from, end: from + whole.end - whole.first })
    one.frames += whole.end - whole.first
    found.set(hash, one)
  }
  const taken: (typeof found extends Map<string, infer Found> ? Found : never)[] = []
  for (const one of [...found.values()].sort((a, b) => descending(a.frames, b.frames)))
    if (taken.every(({ config }) => goTogether(config, one.config))) taken.push(one)
  const parameterSet = freeIdentifier(taken.map(({ config }) => config))
  const copies = taken.flatMap((one) => one.copies).sort((a, b) => a.first - b.first)
  return copies.length > 0 && parameterSet !== null ? { copies, parameterSet } : null
}

function* untouchedRuns(work: ChunkWork): Generator<Run> {
  const planAt = outputPlans(work)
  let run: Run | null = null
  for (let n = 0; n < work.frames; n++) {
    const source = untouched(planAt(n), work)
    if (run && source && source.hash === run.hash && source.frame === run.frame + n - run.first) {
      run.end = n + 1
      continue
    }
    if (run) yield run
    run = source && { ...source, first: n, end: n + 1 }
  }
  if (run) yield run
}

/** The source frame that an output frame is, where nothing is done to it and its film may be copied from. */
function untouched(
  plan: FramePlan,
  { book, encoding }: ChunkWork,
): Pick<Run, 'assetId' | 'frame' | 'hash' | 'metadata'> | null {
  const found = untouchedFrame(plan, book)
  if (!found) return null
  const { hash, metadata } = book.get(found.assetId)!
  if (!mayCopy(metadata, encoding.rate)) return null
  return { ...found, hash, metadata }
}
