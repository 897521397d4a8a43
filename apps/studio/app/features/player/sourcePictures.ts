import { FrameSupply, Picture, PictureStore, type Direction, type Engine, type FrameRequest } from '@dusk/compositor'
import {
  frameAt,
  madeAt,
  madeName,
  PROXY_PIECE,
  type FrameTable,
  type MadeFrames,
  type PictureLayer,
} from '@dusk/timeline'
import { decode } from 'fast-png'
import type { Sources, WorkerSource } from './messages'
import { BrowserDecoders, type DecodedFrame } from './browserDecoders'
import { decodesHere, originalClock, PROXY_CLOCK, type FrameClock } from './frameClock'
import { MissedFrames } from './missedFrames'
import { PreviewDecoders } from './previewDecoders'

/** Bytes of decoded frames that are kept for going back and forth, and of pictures in the engine's memory. */
const FRAME_BYTES = 160 * 1024 ** 2
const STILL_BYTES = 192 * 1024 ** 2
const SLOT_BYTES = 128 * 1024 ** 2
/** Decoders kept open; more when more are shown at once. */
const DECODERS = 9
/** Frames decoded on rather than sought. */
const SKIP = 20

/** Most pixels of a picture that the browser decodes fast enough to play it; the server's decoder is faster. */
const PLAYED_HERE = 1920 * 1088

/** Gives the pictures that layers show, from proxies or before there are any from originals, in the engine's memory. */
export class SourcePictures {
  private sources: Sources = {}
  private readonly tables = new Map<string, Promise<FrameTable>>()
  private readonly supply = new FrameSupply<DecodedFrame>(new PreviewDecoders((url) => this.clockOf(url)), {
    bytes: FRAME_BYTES,
    decoders: DECODERS,
    skip: SKIP,
  })
  /** Whether originals are decoded here, and how their frames are found, by their addresses. */
  private readonly playable = new Map<string, Promise<boolean>>()
  private readonly clocks = new Map<string, Promise<FrameClock>>()
  /** What each place of a picture holds, by the name of its frame. */
  private readonly slotKeys = new Map<string, string>()
  private readonly slots = new PictureStore(SLOT_BYTES)
  private readonly stills = new PictureStore(STILL_BYTES)
  private readonly coming = new Map<string, Promise<Picture>>()
  private readonly missed = new MissedFrames()

  constructor(private readonly engine: Engine) {}

  update(sources: Sources): void {
    this.sources = sources
  }

  table(assetId: string): Promise<FrameTable> {
    const url = this.sources[assetId]!.tableUrl
    let table = this.tables.get(url)
    if (!table) {
      table = fetch(url).then((response) => {
        if (!response.ok) throw new Error(`The frame table of a source could not be fetched (${response.status}).`)
        return response.json() as Promise<FrameTable>
      })
      table.catch(() => this.tables.delete(url))
      this.tables.set(url, table)
    }
    return table
  }

  /**
   * The pictures that the layers of a frame show, in their order; `null` for those whose preview is not ready.
   * @param place names what is drawn, so that two things that are drawn at once do not share pictures
   */
  async pictures(layers: readonly PictureLayer[], place: string, direction: Direction): Promise<(Picture | null)[]> {
    const moving: (FrameRequest & { index: number })[] = []
    const found: (Picture | null)[] = layers.map(() => null)
    await Promise.all(
      layers.map(async (layer, index) => {
        const source = this.sources[layer.assetId]
        if (source?.kind === 'video') {
          if (source.picture || source.planesUrl)
            moving.push({ index, ...(await this.frameOf(layer, place !== 'thumbnail')), reversed: layer.reversed })
        } else if (source?.picture) found[index] = await this.still(source.picture.url, layers)
      }),
    )
    const frames = await this.supply.frames(moving, direction)
    const names = new Set(moving.map(({ index }) => `${place} ${index}`))
    for (const [i, { index }] of moving.entries()) {
      const frame = frames[i]
      if (frame) found[index] = this.fill(`${place} ${index}`, frame.key, frame.frame, names)
      frame?.release()
    }
    return found
  }

  /** Opens a decoder for a layer that will show in so many frames. */
  async prepare(layer: PictureLayer, ahead: number): Promise<void> {
    const source = this.sources[layer.assetId]
    if (source?.kind === 'video') {
      if (source.picture || source.planesUrl) this.supply.expect(await this.frameOf(layer, true), ahead)
    } else if (source?.picture) await this.still(source.picture.url, [layer])
  }

  /**
   * Where the frame of a layer is: in the source's proxy, or before there is one in a piece of it or in the source
   * itself, decoded by this browser or the server; or among those made between its own.
   * @param looked somebody looks at it, rather than at a small picture that stands for it
   */
  private async frameOf(layer: PictureLayer, looked: boolean): Promise<FrameRequest> {
    const made = this.madeFrameOf(layer)
    if (made) return made
    const frame = frameAt(await this.table(layer.assetId), layer.time)
    const source = this.sources[layer.assetId]!
    if (source.picture) return { source: source.picture.url, frame }
    const piece = Math.floor(frame / PROXY_PIECE)
    if (source.pieces?.there.includes(piece))
      return { source: `${source.pieces.url}/piece-${piece}.mp4`, frame: frame - piece * PROXY_PIECE }
    if (source.pieces && looked) this.missed.missed(source.pieces.nearUrl, frame)
    return { source: (await this.playsHere(source)) ? source.originalUrl : source.planesUrl!, frame }
  }

  private playsHere({ plain, originalUrl, pixels }: WorkerSource): Promise<boolean> {
    let found = this.playable.get(originalUrl)
    if (!found) {
      found = plain && pixels <= PLAYED_HERE ? decodesHere(originalUrl) : Promise.resolve(false)
      this.playable.set(originalUrl, found)
    }
    return found
  }

  /** How the frames of a file are found. */
  private clockOf(url: string): FrameClock | Promise<FrameClock> {
    const id = Object.keys(this.sources).find((assetId) => this.sources[assetId]!.originalUrl === url)
    if (id === undefined) return PROXY_CLOCK
    let clock = this.clocks.get(url)
    if (!clock) {
      clock = this.table(id).then((table) => originalClock(url, table))
      clock.catch(() => this.clocks.delete(url))
      this.clocks.set(url, clock)
    }
    return clock
  }

  private madeFrameOf({ assetId, made }: PictureLayer): FrameRequest | null {
    if (!made) return null
    const { segment, frame } = madeAt(made.factor, made.index)
    const url = this.sources[assetId]?.made[madeName({ factor: made.factor, segment })]
    return url ? { source: url, frame } : null
  }

  /** Which frames that are made between those of sources are there. */
  readonly made: MadeFrames = (segment) => this.sources[segment.assetId]?.made[madeName(segment)] !== undefined

  /**
   * The picture a layer shows, from the original file at full size, decoded apart from all that is kept. The caller
   * releases it.
   * @throws {Error} in words when this browser can't decode the original as it is
   */
  async original(layer: PictureLayer, name: string): Promise<Picture> {
    const source = this.sources[layer.assetId]
    if (!source) throw new Error(`${name} is still being read in.`)
    if (source.kind === 'still') return this.loadStill(source.stillUrl!)
    const made = this.madeFrameOf(layer)
    if (made) return this.decodedOnce(made.source.replace('between-proxy', 'between'), made.frame, PROXY_CLOCK, name)
    if (!source.plain)
      throw new Error(`${name} can’t be decoded at full size by the browser. Render the reel to get this frame.`)
    const url = source.originalUrl
    const table = await this.table(layer.assetId)
    return this.decodedOnce(url, frameAt(table, layer.time), await this.clockOf(url), name)
  }

  /** A frame of a file, decoded apart from all that is kept. */
  private async decodedOnce(url: string, frame: number, clock: FrameClock, name: string): Promise<Picture> {
    const decoders = new BrowserDecoders(() => clock)
    try {
      const decoded = await decoders.single({ source: url, frame })
      if (!decoded) throw new Error(`A frame of ${name} could not be decoded.`)
      return this.load(decoded)
    } finally {
      decoders.dispose()
    }
  }

  /** A place's picture with these planes; unchanged when it has them already. */
  private fill(slot: string, key: string, decoded: DecodedFrame, inUse: ReadonlySet<string>): Picture {
    const kept = this.slots.get(slot)
    if (kept && this.slotKeys.get(slot) === key) return kept
    this.slotKeys.set(slot, key)
    if (
      kept &&
      kept.width === decoded.width &&
      kept.height === decoded.height &&
      kept.fits(decoded.matrix, decoded.range)
    ) {
      kept.bytes().set(decoded.planes)
      kept.changed()
      return kept
    }
    const picture = this.load(decoded)
    this.slots.put(slot, picture, inUse)
    return picture
  }

  private load({ width, height, matrix, range, planes }: DecodedFrame): Picture {
    const picture = Picture.i420(this.engine, width, height, matrix, range)
    picture.bytes().set(planes)
    return picture
  }

  private async still(url: string, together: readonly PictureLayer[]): Promise<Picture> {
    const known = this.stills.get(url)
    if (known) return known
    let coming = this.coming.get(url)
    if (!coming) {
      coming = this.loadStill(url).finally(() => this.coming.delete(url))
      this.coming.set(url, coming)
    }
    const picture = await coming
    if (this.stills.get(url) !== picture) {
      const inUse = new Set(together.flatMap((layer) => this.sources[layer.assetId]?.picture?.url ?? []))
      this.stills.put(url, picture, inUse)
    }
    return picture
  }

  private async loadStill(url: string): Promise<Picture> {
    const response = await fetch(url)
    if (!response.ok) throw new Error(`A still could not be fetched (${response.status}).`)
    const { width, height, channels, data } = decode(await response.arrayBuffer())
    return Picture.fromStraight(this.engine, width, height, withAlpha(data as Uint8Array, channels))
  }
}

/** Eight-bit samples of one to four channels (grey or colour, with or without alpha) as four. */
function withAlpha(data: Uint8Array, channels: number): Uint8Array {
  if (channels === 4) return data
  const count = data.length / channels
  const out = new Uint8Array(count * 4)
  const [colours, alpha] = [channels > 2 ? 3 : 1, channels % 2 === 0]
  for (let i = 0, from = 0, to = 0; i < count; i++, from += channels, to += 4) {
    out[to] = data[from]!
    out[to + 1] = data[from + (colours === 3 ? 1 : 0)]!
    out[to + 2] = data[from + (colours === 3 ? 2 : 0)]!
    out[to + 3] = alpha ? data[from + colours]! : 255
  }
  return out
}
