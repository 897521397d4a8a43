import {
  FrameSupply,
  Picture,
  PictureStore,
  type DecoderBackend,
  type Direction,
  type Engine,
  type FrameRequest,
  type HeldFrame,
  type RunningDecoder,
} from '@dusk/compositor'
import { decodeStill, FrameReader, i420Size, type PictureSource, type Storage } from '@dusk/media'
import type { SourceBook } from './sources'

/** A source frame as 4:2:0 planes, one after the other. */
export type SourceFrame = HeldFrame<Buffer>

/** Bytes of decoded frames that are kept: for groups of them where something goes backwards, and where all goes on. */
const FRAME_BYTES = 192 * 1024 ** 2
const ONWARD_BYTES = 80 * 1024 ** 2
/** Bytes of stills in the engine's memory that are kept. */
const STILL_BYTES = 384 * 1024 ** 2
/** Decoders kept open; more when more are shown at once. */
const DECODERS = 9
/** Pictures after which a decoder that none of them needed is closed: each takes up to a quarter of a gigabyte. */
const IDLE = 120
/** Frames that are read away to reach a wanted one rather than opening a decoder there. */
const SKIP = 24
/** Most frames that are decoded at once to go backwards. */
const GROUP = 24
/** Buffers of one size that wait to be used again. */
const SPARE = 8

/** Decodes originals by ffmpeg, a process to a decoder. */
class ProcessDecoders implements DecoderBackend<Buffer> {
  readonly whole = true
  private readonly spare = new Map<number, Buffer[]>()

  constructor(
    private readonly storage: Storage,
    private readonly book: SourceBook,
  ) {}

  open(request: FrameRequest): RunningDecoder<Buffer> {
    const { path, metadata } = this.file(request.source)
    const wanted = request.reversed ? 1 : (request.step?.() ?? 1)
    const step = wanted <= SKIP ? wanted : 1
    const buffers = { take: (size: number) => this.buffer(size), give: (bytes: Buffer) => this.release(bytes) }
    const reader = new FrameReader(path, metadata, request.frame, step, buffers)
    return { step, read: () => reader.read(), close: () => void reader.close() }
  }

  /** A source's original, or a file of frames made between its own: see `fileOf`. */
  private file(source: string): { path: string; metadata: PictureSource } {
    const [assetId, made] = source.split('/')
    const { hash, metadata, made: files } = this.book.get(assetId!)!
    return made ? files!.get(made)! : { path: this.storage.original(hash), metadata }
  }

  groupStart({ source, frame }: FrameRequest): number {
    const { metadata } = this.file(source)
    const fits = Math.floor(FRAME_BYTES / 2 / i420Size(metadata.width!, metadata.height!))
    return Math.max(0, frame - Math.max(1, Math.min(GROUP, fits)) + 1)
  }

  bytes(frame: Buffer): number {
    return frame.length
  }

  release(frame: Buffer): void {
    const list = this.spare.get(frame.length)
    if (!list) this.spare.set(frame.length, [frame])
    else if (list.length < SPARE) list.push(frame)
  }

  /** A buffer of `size` bytes, used again when it comes back through {@link release}. */
  buffer(size: number): Buffer {
    return this.spare.get(size)?.pop() ?? Buffer.allocUnsafeSlow(size)
  }
}

/** Gives source frames and stills to a render, as pictures in the engine's memory where they are drawn. */
export class FramePool {
  private readonly backend: ProcessDecoders
  private readonly supply: FrameSupply<Buffer>
  private readonly stills = new PictureStore(STILL_BYTES)
  private readonly drawn = new Map<string, { key: string; picture: Picture }>()

  constructor(
    private readonly engine: Engine,
    private readonly storage: Storage,
    private readonly book: SourceBook,
  ) {
    this.backend = new ProcessDecoders(storage, book)
    this.supply = new FrameSupply(this.backend, {
      ...{ bytes: FRAME_BYTES, onward: ONWARD_BYTES },
      ...{ decoders: DECODERS, skip: SKIP, idle: IDLE },
    })
  }

  /** Frames of moving sources that are shown together. The caller releases each. */
  frames(wanted: readonly FrameRequest[], direction: Direction = 'forward'): Promise<(SourceFrame | null)[]> {
    return this.supply.frames(wanted, direction)
  }

  /** Opens a decoder for a frame that will be wanted `ahead` frames from now, unless one will be there by itself. */
  expect(request: FrameRequest, ahead: number): void {
    const [assetId] = request.source.split('/')
    if (this.book.get(assetId!)?.metadata.kind === 'video') this.supply.expect(request, ahead)
  }

  /** Stills as pictures in the engine's memory, by asset. Owned by the pool, good until the next call. */
  async stillPictures(assetIds: readonly string[]): Promise<Map<string, Picture>> {
    const inUse = new Set(assetIds)
    const found = new Map<string, Picture>()
    for (const assetId of inUse) {
      let picture = this.stills.get(assetId)
      if (!picture) {
        const { hash, metadata } = this.book.get(assetId)!
        const still = await decodeStill(this.storage.original(hash), metadata.stillFormat!)
        picture = Picture.fromStraight(this.engine, still.width, still.height, still.pixels)
        this.stills.put(assetId, picture, inUse)
      }
      found.set(assetId, picture)
    }
    return found
  }

  /** A frame as a picture in the engine's memory. `slot` names the place in the plan it is for. Owned by the pool. */
  picture(assetId: string, slot: string, frame: SourceFrame): Picture {
    const { width, height } = this.book.get(assetId)!.metadata
    let entry = this.drawn.get(slot)
    if (entry?.key === frame.key) return entry.picture
    if (entry && (entry.picture.width !== width || entry.picture.height !== height)) {
      entry.picture.release()
      entry = undefined
    }
    const picture = entry?.picture ?? Picture.i420(this.engine, width!, height!)
    picture.bytes().set(frame.frame)
    picture.changed()
    this.drawn.set(slot, { key: frame.key, picture })
    return picture
  }

  /** A buffer of `size` bytes, used again when it comes back through {@link recycle}. */
  buffer(size: number): Buffer {
    return this.backend.buffer(size)
  }

  recycle(bytes: Buffer): void {
    this.backend.release(bytes)
  }

  close(): void {
    this.supply.close()
    this.stills.clear()
    for (const { picture } of this.drawn.values()) picture.release()
    this.drawn.clear()
  }
}
