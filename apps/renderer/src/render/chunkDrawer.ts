import { bisector } from 'd3-array'
import { LRUCache } from 'lru-cache'
import { Compositor, withoutHidden } from '@dusk/compositor'
import {
  ChunkEncoder,
  chunkEnding,
  copySpan,
  NothingDecoded,
  takesRgba,
  transcodeSpan,
  type PictureEncoding,
  type ScratchSet,
  type Storage,
} from '@dusk/media'
import { FramePlanner, pictureLayers, type FramePlan, type OutputSize, type Project } from '@dusk/timeline'
import { frameTick, type Chunk } from './chunks'
import type { CopiedFrom } from './copies'
import { loadCubes } from './cubes'
import { drawFrame, drawPlanes, fileOf, frameOf, layerFrame } from './drawFrame'
import { nodeEngine } from './engine'
import { copyFailed, FilmShelf } from './filmShelf'
import { FramePool } from './framePool'
import { contentOf, HeldFrame } from './heldFrame'
import { straightAlpha } from './outputShape'
import { madeIn, type SourceBook } from './sources'
import type { TranscodedFrom } from './transcodes'

/** What drawing the chunks of a render needs: plain data, so that it can be handed to another thread. */
export interface ChunkWork {
  project: Project
  reelId: string
  book: SourceBook
  /** Reel position of the first output frame, in ticks. */
  from: number
  /** Output frames in all. */
  frames: number
  shape: OutputSize
  encoding: PictureEncoding
  /** Chunks that are not drawn, in order: copied, or encoded as they are decoded. */
  undrawn?: readonly Chunk[]
}

/** A chunk that is to be made, and where its file goes. */
export interface ChunkTask extends Chunk {
  /** Its number within the render, from 0. */
  n: number
  /** Name of its file, by what its bytes depend on. */
  key: string
  path: string
  /** Where its pictures are copied from as they are coded, instead of being drawn. */
  copied?: CopiedFrom
  /** Frames of a source that its own are, with nothing done to them: they are encoded as they are decoded. */
  transcoded?: TranscodedFrom
}

export interface DrawOptions {
  signal?: AbortSignal
  /** Called with each frame. */
  drawn?: () => void
}

/** A chunk that is being made. */
interface Making {
  /** Settles when it leaves room for the next one. */
  nearly: Promise<void>
  /** Settles when its file is whole. */
  whole: Promise<void>
}

/** Frames that may wait for the encoder. */
const IN_FLIGHT = 4
/** How far ahead decoders of shots to come are opened, in frames that are drawn. */
const AHEAD = 20
/** Frames beyond which nothing is opened, whatever lies between: it may be another lane's. */
const FARTHEST = 400
/** Frames at the end of one that is encoded as it is decoded, during which the next may begin: encoders look ahead. */
const LAST = 45
/** For how many frames source frames have to be equally far apart for those between to be left out. */
const EVEN = 16
/** Plans that are remembered: what is looked at ahead is drawn later. */
const PLANS = 64

const rightOf = bisector(({ first }: Chunk) => first).right

/** Plans of a render's output frames. */
export function outputPlans({ project, reelId, book, from, shape, encoding }: ChunkWork): (frame: number) => FramePlan {
  const planner = new FramePlanner(project, reelId, madeIn(book))
  const known = new LRUCache<number, FramePlan>({ max: PLANS })
  return (frame) => {
    let plan = known.get(frame)
    if (plan) return plan
    plan = withoutHidden(planner.plan(frameTick(from, frame, encoding.rate), shape))
    if (encoding.alpha) plan = { ...plan, background: null }
    known.set(frame, plan)
    return plan
  }
}

/** Draws and encodes chunks one after the other, with decoders and pictures of its own. */
export class ChunkDrawer {
  private readonly planAt: (frame: number) => FramePlan
  private readonly pool: FramePool
  private readonly open = new Set<ChunkEncoder>()
  private readonly making = new Set<Promise<void>>()
  /** Settles when nothing is drawn: one chunk at a time is. */
  private turn: Promise<unknown> = Promise.resolve()
  private readonly closing = new AbortController()
  private readonly storage: ScratchSet
  private readonly films: FilmShelf
  /** Frames that were looked at ahead. */
  private readonly expected = new LRUCache<number, true>({ max: PLANS })
  /** The frame that was drawn last: what stands still is drawn once. */
  private last: HeldFrame | null = null

  private constructor(
    private readonly work: ChunkWork,
    storage: Storage,
    private readonly compositor: Compositor,
    private readonly given?: FilmShelf,
  ) {
    this.storage = storage.scratchSet()
    this.films = given ?? new FilmShelf(storage)
    this.planAt = outputPlans(work)
    this.pool = new FramePool(compositor.engine, storage, work.book)
  }

  /** @param films that are open already; without it they are opened as they are needed, and closed at the end */
  static async create(work: ChunkWork, storage: Storage, films?: FilmShelf): Promise<ChunkDrawer> {
    const compositor = new Compositor(await nodeEngine())
    try {
      await loadCubes(work.project, compositor, storage)
      return new ChunkDrawer(work, storage, compositor, films)
    } catch (error) {
      compositor.release()
      throw error
    }
  }

  /** Size of the pictures that are encoded. */
  get shape(): { width: number; height: number } {
    return this.work.shape
  }

  /**
   * Makes a chunk. The encoder empties its last frames while the next chunk already begins.
   * @param options.drawn called with each frame
   * @returns what settles when its file is in its place
   */
  async draw(task: ChunkTask, options: DrawOptions = {}): Promise<{ finished: Promise<void> }> {
    const part = await this.storage.scratch(`.${chunkEnding(this.work.encoding)}`)
    // Little of it is done here: what is drawn next is begun meanwhile.
    if (task.copied || task.transcoded) this.lookAhead(task.end)
    const { nearly, whole } = task.copied
      ? this.copy(task.copied, task, part, options)
      : task.transcoded
        ? this.transcode(task.transcoded, task, part, options)
        : await this.drawFrames(task, part, options)
    const finished = quiet(whole.then(() => this.storage.publish(part, task.path)))
    this.making.add(finished)
    const made = quiet(finished.finally(() => this.making.delete(finished)))
    await nearly
    return { finished: made }
  }

  /** Ends what still runs, gives back its memory, and removes chunks that are not whole. */
  async close(): Promise<void> {
    this.closing.abort(new Error('closed'))
    for (const encoder of this.open) encoder.abort()
    this.pool.close()
    this.compositor.release()
    if (!this.given) await this.films.close()
    await Promise.allSettled([...[...this.open].map((encoder) => encoder.done), ...this.making])
    await this.storage.clear()
  }

  /** Draws the frames of a chunk one after the other, of one chunk at a time. */
  private drawFrames({ first, end }: ChunkTask, part: string, options: DrawOptions): Promise<Making> {
    const drawing = this.turn.then(async () => {
      const encoder = new ChunkEncoder(this.work.encoding, part)
      this.open.add(encoder)
      const flying: Promise<void>[] = []
      this.lookAhead(first)
      for (let n = first; n < end; n++) {
        options.signal?.throwIfAborted()
        const plan = this.planAt(n)
        this.lookAhead(n + 1)
        if (flying.length >= IN_FLIGHT) await flying.shift()
        flying.push((await this.hand(encoder, plan, n)).written)
        options.drawn?.()
      }
      await Promise.all(flying)
      const whole = quiet(encoder.finish().then(() => void this.open.delete(encoder)))
      return { nearly: Promise.resolve(), whole }
    })
    this.turn = drawing.catch(() => {})
    return drawing
  }

  /** Encodes frames of a source as they are decoded. */
  private transcode(
    { assetId, frame, step, key }: TranscodedFrom,
    task: ChunkTask,
    out: string,
    options: DrawOptions,
  ): Making {
    const { hash, metadata } = this.work.book.get(assetId)!
    const count = task.end - task.first
    let isNear = () => {}
    const nearly = new Promise<void>((resolve) => (isNear = resolve))
    const tell = eachOf(options.drawn)
    const encoded = (frames: number) => {
      tell(frames)
      if (frames >= count - LAST) isNear()
    }
    if (count <= LAST) isNear()
    const signal = this.signalOf(options)
    const span = { first: frame, count, step, key, out }
    const whole = transcodeSpan(this.storage.original(hash), metadata, span, this.work.encoding, { signal, encoded })
      .catch(async (error: unknown) => {
        if (!(error instanceof NothingDecoded)) throw error
        // What is shown in its place is drawn.
        await (
          await this.drawFrames(task, out, options)
        ).whole
      })
      .finally(isNear)
    return { nearly, whole }
  }

  /** Copies coded pictures out of a film. */
  private copy({ assetId, frame }: CopiedFrom, { first, end }: ChunkTask, out: string, options: DrawOptions): Making {
    const { hash, metadata } = this.work.book.get(assetId)!
    const signal = this.signalOf(options)
    const copied = eachOf(options.drawn)
    const copying = async () => {
      try {
        const film = await this.films.openPlanned(hash, metadata)
        await copySpan(film, { first: frame, count: end - first, out }, { signal, copied })
      } catch (error) {
        throw copyFailed(error, signal)
      }
    }
    return { nearly: Promise.resolve(), whole: copying() }
  }

  private signalOf({ signal }: DrawOptions): AbortSignal {
    return signal ? AbortSignal.any([signal, this.closing.signal]) : this.closing.signal
  }

  /** Opens the decoders of what is drawn from a frame on, over the next {@link AHEAD} frames that are drawn. */
  private lookAhead(from: number): void {
    let frame = this.nextDrawn(from)
    for (let n = 0; n < AHEAD && frame < Math.min(this.work.frames, from + FARTHEST); n++) {
      if (!this.expected.has(frame)) this.expect(frame, n + 1)
      frame = this.nextDrawn(frame + 1)
    }
  }

  /** The first frame from `frame` on that is drawn. */
  private nextDrawn(frame: number): number {
    const { undrawn = [] } = this.work
    let at = frame
    for (let n = rightOf(undrawn, at) - 1; undrawn[n] && undrawn[n]!.first <= at && at < undrawn[n]!.end; n++)
      at = undrawn[n]!.end
    return at
  }

  private expect(frame: number, ahead: number): void {
    this.expected.set(frame, true)
    const { book } = this.work
    pictureLayers(this.planAt(frame)).forEach((layer, i) => {
      if (!layer.reversed)
        this.pool.expect(
          frameOf(layer, book, () => this.step(frame, i)),
          ahead,
        )
    })
  }

  /** How many source frames a layer goes on by from each output frame to the next; 1 where that is not always alike. */
  private step(frame: number, layer: number): number {
    const { book, frames } = this.work
    const at = (n: number) => (n < frames ? pictureLayers(this.planAt(n))[layer] : undefined)
    const first = at(frame)
    if (!first) return 1
    const name = fileOf(first, book)
    let [before, step] = [layerFrame(first, book), 0]
    for (let n = frame + 1; n <= frame + EVEN; n++) {
      const next = at(n)
      // It ends here: what lies behind is another matter.
      if (!next || fileOf(next, book) !== name) break
      const gone = layerFrame(next, book) - before
      if (gone < 1 || (step > 0 && gone !== step)) return 1
      ;[before, step] = [before + gone, gone]
    }
    return Math.max(step, 1)
  }

  /** Gives a frame to the encoder; `written` settles when its bytes are free again. */
  private async hand(encoder: ChunkEncoder, plan: FramePlan, n: number): Promise<{ written: Promise<void> }> {
    const { pool } = this
    const { book, encoding } = this.work
    const [layer] = plan.layers
    if (
      !takesRgba(encoding) &&
      plan.passThrough &&
      layer?.kind === 'picture' &&
      book.get(layer.assetId)!.metadata.kind === 'video'
    ) {
      const [frame] = await pool.frames([frameOf(layer, book, () => this.step(n, 0))])
      if (frame) return { written: quiet(encoder.write(frame.frame).finally(() => frame.release())) }
    }
    const content = contentOf(plan, book)
    if (this.last?.content !== content) {
      const bytes = await this.drawn(plan, n)
      this.last?.release()
      this.last = new HeldFrame(content, bytes, () => pool.recycle(bytes))
    }
    const held = this.last.take()
    return { written: quiet(encoder.write(held.bytes).finally(() => held.release())) }
  }

  /** Draws a frame to bytes as the encoder takes them. */
  private async drawn(plan: FramePlan, n: number): Promise<Buffer> {
    const { pool, compositor, storage } = this
    const { book, encoding } = this.work
    const tools = { compositor, pool, book, storage }
    const step = (layer: number) => this.step(n, layer)
    const drawn = takesRgba(encoding)
      ? (await drawFrame(plan, tools, step)).pixels()
      : await drawPlanes(plan, tools, step)
    const bytes = pool.buffer(drawn.length)
    if (encoding.alpha) straightAlpha(drawn, bytes)
    else bytes.set(drawn)
    return bytes
  }
}

/** Calls `drawn` once for each of the frames that there are now more than there were. */
function eachOf(drawn?: () => void): (frames: number) => void {
  let seen = 0
  return (frames) => {
    for (; seen < frames; seen++) drawn?.()
  }
}

/** A promise that is awaited later must not count as unhandled until then. */
function quiet(promise: Promise<void>): Promise<void> {
  promise.catch(() => {})
  return promise
}
