import { Picture, type Engine } from '@dusk/compositor'
import { decodeStill, FrameReader, i420Size, type Storage } from '@dusk/media'
import type { SourceBook } from './sources'

/** A decoded frame in memory. Held by whoever counted itself in; its bytes go back to the pool at zero. */
export class Frame {
  private holders = 1

  constructor(
    readonly assetId: string,
    readonly number: number,
    readonly bytes: Buffer,
    private readonly recycle: (bytes: Buffer) => void,
  ) {}

  hold(): this {
    this.holders++
    return this
  }

  release(): void {
    if (--this.holders === 0) this.recycle(this.bytes)
  }
}

interface Lane {
  assetId: string
  reader: FrameReader
  frame: Frame | null
  /** When it was last of use, by a count of requests. */
  used: number
}

/** Frames that are read away to reach a wanted one rather than opening a decoder there. */
const SKIP = 24
/** Decoders kept open at once. */
const MOST_LANES = 6
/** Stills kept as pictures. */
const MOST_STILLS = 8

/**
 * Gives source frames by number. Decoders run on through a shot, are opened ahead of the next one, and closed when
 * idle.
 */
export class FramePool {
  private lanes: Lane[] = []
  private readonly free = new Map<number, Buffer[]>()
  private readonly stills = new Map<string, Picture>()
  private readonly drawn = new Map<string, { frame: Frame; picture: Picture }>()
  private clock = 0

  constructor(
    private readonly engine: Engine,
    private readonly storage: Storage,
    private readonly book: SourceBook,
  ) {}

  /**
   * Frame `number` of a moving source as 4:2:0 planes. The caller releases it.
   * @returns `null` when the source ends before it
   */
  async frame(assetId: string, number: number): Promise<Frame | null> {
    this.clock++
    const lane = await this.laneFor(assetId, number)
    lane.used = this.clock
    if (lane.frame?.number === number) return lane.frame.hold()
    const { metadata } = this.book.get(assetId)!
    const size = i420Size(metadata.width!, metadata.height!)
    while (lane.reader.next <= number) {
      const at = lane.reader.next
      const bytes = this.buffer(size)
      if (!(await lane.reader.readInto(bytes))) {
        this.recycle(bytes)
        // Files that promise more frames than can be decoded: the last good one is held.
        return lane.frame?.hold() ?? null
      }
      lane.frame?.release()
      lane.frame = new Frame(assetId, at, bytes, (done) => this.recycle(done))
    }
    return lane.frame?.hold() ?? null
  }

  /** Opens a decoder for a frame that will be wanted `ahead` frames from now, unless one will be there by itself. */
  expect(assetId: string, number: number, ahead: number): void {
    const { metadata } = this.book.get(assetId) ?? {}
    if (!metadata || metadata.kind !== 'video') return
    const comes = this.lanes.some(
      (lane) =>
        lane.assetId === assetId && number - lane.reader.next >= -1 && number - lane.reader.next <= ahead + SKIP,
    )
    if (!comes) this.openLane(assetId, number)
  }

  /** A source's picture in the engine's memory, for drawing: a frame's planes, or a still. Owned by the pool. */
  async picture(assetId: string, slot: string, frame: Frame | null): Promise<Picture | null> {
    const { hash, metadata } = this.book.get(assetId)!
    if (metadata.kind === 'still') {
      let picture = this.stills.get(assetId)
      if (!picture) {
        const still = await decodeStill(this.storage.original(hash), metadata.stillFormat!)
        picture = Picture.fromStraight(this.engine, still.width, still.height, still.pixels)
        if (this.stills.size >= MOST_STILLS) {
          const [oldest, old] = this.stills.entries().next().value!
          this.stills.delete(oldest)
          old.release()
        }
      } else this.stills.delete(assetId)
      this.stills.set(assetId, picture)
      return picture
    }
    if (!frame) return null
    const kept = this.drawn.get(slot)
    if (kept && kept.frame === frame) return kept.picture
    let picture = kept?.picture
    if (picture && (picture.width !== metadata.width || picture.height !== metadata.height)) {
      picture.release()
      picture = undefined
    }
    picture ??= Picture.i420(this.engine, metadata.width!, metadata.height!)
    picture.bytes().set(frame.bytes)
    picture.changed()
    kept?.frame.release()
    this.drawn.set(slot, { frame: frame.hold(), picture })
    return picture
  }

  /** A buffer of `size` bytes, used again when it comes back through {@link recycle}. */
  buffer(size: number): Buffer {
    return this.free.get(size)?.pop() ?? Buffer.allocUnsafeSlow(size)
  }

  recycle(bytes: Buffer): void {
    const list = this.free.get(bytes.length)
    if (list) {
      if (list.length < 16) list.push(bytes)
    } else this.free.set(bytes.length, [bytes])
  }

  async close(): Promise<void> {
    await Promise.all(this.lanes.map((lane) => lane.reader.close()))
    this.lanes = []
    for (const picture of this.stills.values()) picture.release()
    for (const { picture } of this.drawn.values()) picture.release()
    this.stills.clear()
    this.drawn.clear()
  }

  private async laneFor(assetId: string, number: number): Promise<Lane> {
    let best: Lane | null = null
    for (const lane of this.lanes) {
      if (lane.assetId !== assetId) continue
      if (lane.frame?.number === number) return lane
      const gap = number - lane.reader.next
      if (gap >= 0 && gap <= SKIP && (!best || gap < number - best.reader.next)) best = lane
    }
    return best ?? this.openLane(assetId, number)
  }

  private openLane(assetId: string, number: number): Lane {
    if (this.lanes.length >= MOST_LANES) {
      const idle = this.lanes.reduce((a, b) => (b.used < a.used ? b : a))
      this.lanes = this.lanes.filter((lane) => lane !== idle)
      idle.frame?.release()
      void idle.reader.close()
    }
    const { hash, metadata } = this.book.get(assetId)!
    const reader = new FrameReader(this.storage.original(hash), metadata, number)
    const lane: Lane = { assetId, reader, frame: null, used: this.clock }
    this.lanes.push(lane)
    return lane
  }
}
