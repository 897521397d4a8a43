import { stat } from 'node:fs/promises'
import { availableParallelism } from 'node:os'
import { sum } from 'd3-array'
import type { ChunkFile } from '@dusk/media'
import type { RenderEstimate } from '@dusk/store'
import { framesPerSecond, frameToTicks, pictureLayers, type FramePlan } from '@dusk/timeline'
import { outputPlans, type ChunkTask } from './chunkDrawer'
import type { ChunkSupply } from './chunkSupply'
import { deliver, wantsSound } from './deliver'
import { drawChunks } from './drawChunks'
import { fileOf } from './drawFrame'
import { besideEachOther, estimateChunks, sampleOrder, type EstimatedChunk } from './estimateMath'
import { FilmShelf } from './filmShelf'
import { planRender } from './planRender'
import { checkSources } from './renderReel'
import { renderSound } from './renderSound'
import type { RenderSubject } from './request'
import type { SourceBook } from './sources'

/** Chunks that are made at least, where there are so many: fewer say nothing of how alike they are. */
const LEAST_CHUNKS = 4
/** Standard error that is near enough, and seconds after which what is known has to do. */
const NEAR = 0.06
const LONGEST = 40
/** Chunks that are copied for it at most. */
const COPIES = 4
/** Frames after which drawing goes its pace. */
const WARM = 30
/** Seconds of sound that are mixed for it. */
const SOUND = 10
/** Seconds that putting a file together takes however short it is: two programs are started. */
const PUT_TOGETHER = 0.3

/** Chunks in the order in which they tell most, until enough is known. */
class Sample implements ChunkSupply {
  private taken = 0
  private lanes = 0
  /** Milliseconds, and frames drawn by then, since which the pace is a steady one. */
  private since: [at: number, drawn: number]
  private drawn = 0
  private readonly began = performance.now()
  private last = this.began
  /** Seconds from the last frame until all files were whole. */
  private emptied = 0

  constructor(
    private readonly tasks: readonly ChunkTask[],
    private readonly enough: () => boolean,
    private readonly madeOne: (n: number) => Promise<void>,
  ) {
    this.since = [performance.now(), 0]
  }

  /** Seconds that a frame takes. */
  get pace(): number {
    return this.drawn > this.since[1] ? (this.last - this.since[0]) / 1000 / (this.drawn - this.since[1]) : 0
  }

  /** Seconds beside those of its frames: until drawing went its pace, and until the last file was whole. */
  get around(): number {
    const [at, drawn] = this.since
    return Math.max(0, (at - this.began) / 1000 - drawn * this.pace) + this.emptied
  }

  get left(): number {
    return this.enough() ? 0 : this.tasks.length - this.taken
  }

  addLane(): number {
    return this.lanes++
  }

  next(): ChunkTask | null {
    return this.enough() ? null : (this.tasks[this.taken++] ?? null)
  }

  drew(): void {
    this.drawn++
    this.last = performance.now()
    // Threads, decoders and encoders begin only once in a render.
    if (this.since[1] === 0 && this.drawn >= WARM) this.since = [this.last, this.drawn]
  }

  async made({ n }: Pick<ChunkTask, 'n'>): Promise<void> {
    await this.madeOne(n)
  }

  /** All that was taken is in its place. */
  end(): void {
    this.emptied = (performance.now() - this.last) / 1000
  }
}

/**
 * Says what a render would come to by making some of its chunks, which it then finds made, and mixing some of its
 * sound. Goes on until that is near enough.
 * @param tell called whenever more is known
 * @throws {RenderFailed} where it can't be rendered, or the signal's reason
 */
export async function estimateRender(
  request: RenderSubject,
  tell: (found: RenderEstimate) => Promise<void>,
): Promise<void> {
  const { project, reelId, settings, book, storage, signal } = request
  const began = performance.now()
  await checkSources(project, reelId, book, storage)
  const { from, frames, work, chunks } = await planRender(request)
  const planned = (performance.now() - began) / 1000
  const parts: EstimatedChunk[] = []
  const planAt = outputPlans(work)
  for (const chunk of chunks) {
    const bytes = (await storage.fetch(chunk.path)) ? (await stat(chunk.path)).size : null
    const kind = kindOf(planAt(Math.floor((chunk.first + chunk.end) / 2)), book)
    parts.push({ frames: chunk.frames, copied: Boolean(chunk.copied), kind, bytes })
  }
  const sound = wantsSound(settings) ? await sampleSound(request, from, frames) : { bytes: 0, seconds: 0 }

  const samples: Partial<Record<'drawn' | 'copied', Sample>> = {}
  let joining = 0
  const leftOf = (copied: boolean) =>
    sum(parts, (part) => (part.copied === copied && part.bytes === null ? part.frames : 0))
  const told = async () => {
    const found = estimateChunks(parts)
    if (!found) return
    let pictures = 0
    for (const kind of ['drawn', 'copied'] as const) {
      const left = leftOf(kind === 'copied')
      if (left === 0) continue
      const { pace, around } = samples[kind] ?? { pace: 0, around: 0 }
      if (!pace) return
      pictures += left * pace + around
    }
    await tell({
      bytes: found.bytes + sound.bytes,
      spread: found.spread,
      seconds: planned + besideEachOther(pictures, sound.seconds, availableParallelism()) + joining,
      made: parts.filter(({ bytes }) => bytes !== null).length,
      chunks: parts.length,
    })
  }
  const draw = async (kind: keyof typeof samples, enough: (made: number) => boolean) => {
    const tasks = spreadTasks(chunks, parts, kind === 'copied')
    if (tasks.length === 0) return
    let made = 0
    const sample = new Sample(
      tasks,
      () => enough(made),
      async (n) => {
        made++
        parts[n]!.bytes = (await stat(chunks[n]!.path)).size
        await told()
      },
    )
    samples[kind] = sample
    await drawChunks(work, tasks, sample, storage, { signal })
    sample.end()
  }
  await told()
  await draw('copied', (made) => made >= COPIES)
  const drawing = performance.now()
  await draw('drawn', (made) => {
    const seconds = (performance.now() - drawing) / 1000
    if (made < Math.min(LEAST_CHUNKS, chunks.length)) return seconds > LONGEST && made > 1
    return seconds > LONGEST || (estimateChunks(parts)?.spread ?? 1) <= NEAR
  })
  joining = await sampleJoining(request, chunks, parts)
  await told()
}

/** Seconds that putting the file together and checking it takes, by doing so with the parts that are there. */
async function sampleJoining(
  { settings, book, storage, signal }: RenderSubject,
  chunks: readonly (ChunkTask & ChunkFile)[],
  parts: readonly EstimatedChunk[],
): Promise<number> {
  const made = chunks.filter((_, n) => parts[n]!.bytes !== null)
  if (made.length === 0) return 0
  const scratch = storage.scratchSet()
  const films = new FilmShelf(storage)
  try {
    const began = performance.now()
    const words = { chapters: [] }
    await deliver({ settings, chunks: made, book, films, sound: null, words, scratch }, signal)
    const seconds = (performance.now() - began) / 1000
    const factor = sum(chunks, ({ frames }) => frames) / sum(made, ({ frames }) => frames)
    return PUT_TOGETHER + Math.max(0, seconds - PUT_TOGETHER) * factor
  } finally {
    await films.close()
    await scratch.clear()
  }
}

/** What is seen in a frame, as far as it tells how many bits that takes: its films and stills. */
function kindOf(plan: FramePlan, book: SourceBook): string {
  const sources = new Set(pictureLayers(plan).map((layer) => fileOf(layer, book)))
  return [plan.layers.length > 0 ? 'seen' : 'empty', ...[...sources].sort()].join(' ')
}

/** Chunks that are not there, those first that tell most of the others. */
function spreadTasks(
  chunks: readonly (ChunkTask & ChunkFile)[],
  parts: readonly EstimatedChunk[],
  copied: boolean,
): ChunkTask[] {
  const missing = chunks.filter((_, n) => parts[n]!.bytes === null && parts[n]!.copied === copied)
  return sampleOrder(missing.map(({ n }) => parts[n]!)).map((i) => missing[i]!)
}

/** Bytes and seconds of the sound of a render, by a stretch out of its middle. */
async function sampleSound(
  request: RenderSubject,
  from: number,
  frames: number,
): Promise<{ bytes: number; seconds: number }> {
  const rate = framesPerSecond(request.settings.rate)
  const some = Math.min(frames, Math.ceil(SOUND * rate))
  const scratch = request.storage.scratchSet()
  const out = await scratch.scratch('.sound')
  try {
    const middle = from + frameToTicks(Math.floor((frames - some) / 2), request.settings.rate)
    const began = performance.now()
    await renderSound(request, middle, some, out)
    const factor = frames / some
    return {
      bytes: (await stat(out)).size * factor,
      seconds: ((performance.now() - began) / 1000) * factor,
    }
  } finally {
    await scratch.clear()
  }
}
