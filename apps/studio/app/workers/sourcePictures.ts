import { Picture, type Engine } from '@dusk/compositor'
import { frameAt, frameStart, PROXY_RATE, TICKS_PER_SECOND, type FrameTable, type PictureLayer } from '@dusk/timeline'
import { decode } from 'fast-png'
import { ALL_FORMATS, Input, UrlSource } from 'mediabunny'
import type { Sources } from '../lib/messages'
import { FrameFeed, type DecodedFrame, type FrameClock } from './frameFeed'

/** Bytes of decoded frames that are kept for going back and forth. */
const KEPT_BYTES = 160 * 1024 ** 2

const PROXY_CLOCK: FrameClock = {
  time: (frame) => (frame + 0.25) / PROXY_RATE,
  frame: (time) => Math.round(time * PROXY_RATE),
}

/** Gives the pictures that layers show, from proxies, in the engine's memory. */
export class SourcePictures {
  private sources: Sources = {}
  private readonly tables = new Map<string, Promise<FrameTable>>()
  private readonly feeds = new Map<string, FrameFeed>()
  private readonly frames = new Map<string, DecodedFrame>()
  private frameBytes = 0
  private readonly slots = new Map<string, { key: string; picture: Picture }>()
  private readonly stills = new Map<string, Promise<Picture>>()

  constructor(private readonly engine: Engine) {}

  update(sources: Sources): void {
    this.sources = sources
  }

  table(assetId: string): Promise<FrameTable> {
    let table = this.tables.get(assetId)
    if (!table) {
      table = fetch(this.sources[assetId]!.tableUrl).then((response) => {
        if (!response.ok) throw new Error(`The frame table of a source could not be fetched (${response.status}).`)
        return response.json() as Promise<FrameTable>
      })
      table.catch(() => this.tables.delete(assetId))
      this.tables.set(assetId, table)
    }
    return table
  }

  /** The picture a layer shows, or `null` while its preview is not ready. */
  async picture(layer: PictureLayer, slot: string, running: 'forward' | 'backward' | 'still'): Promise<Picture | null> {
    const source = this.sources[layer.assetId]
    if (!source?.picture) return null
    if (source.kind === 'still') return this.still(source.picture.url)
    const frame = frameAt(await this.table(layer.assetId), layer.time)
    const key = `${layer.assetId}/${frame}`
    if (!this.frames.has(key)) await this.feed(layer.assetId).decode(frame, running)
    const decoded = this.frames.get(key)
    if (!decoded) return this.slots.get(slot)?.picture ?? null
    this.frames.delete(key)
    this.frames.set(key, decoded)
    return this.fill(slot, key, decoded)
  }

  /** Opens a decoder for a layer that will show soon. */
  async prepare(layer: PictureLayer): Promise<void> {
    const source = this.sources[layer.assetId]
    if (!source?.picture) return
    if (source.kind === 'still') await this.still(source.picture.url)
    else {
      const frame = frameAt(await this.table(layer.assetId), layer.time)
      if (!this.frames.has(`${layer.assetId}/${frame}`)) await this.feed(layer.assetId).prepare(frame)
    }
  }

  /**
   * The picture a layer shows, from the original file at full size, decoded apart from all that is kept. The caller
   * releases it.
   * @throws {Error} in words when this browser can't decode the original as it is
   */
  async original(layer: PictureLayer, name: string): Promise<Picture> {
    const source = this.sources[layer.assetId]
    if (!source) throw new Error(`${name} is still being read in.`)
    if (source.kind === 'still') return this.loadStill(source.stillUrl!)
    if (!source.plain)
      throw new Error(`${name} can’t be decoded at full size by the browser. Render the reel to get this frame.`)
    const url = source.originalUrl
    const table = await this.table(layer.assetId)
    const input = new Input({ source: new UrlSource(url), formats: ALL_FORMATS })
    const track = await input.getPrimaryVideoTrack()
    const zero = (await track?.getFirstTimestamp()) ?? 0
    input.dispose()
    const start = (frame: number) => zero + frameStart(table, frame) / TICKS_PER_SECOND
    const clock: FrameClock = {
      time: (frame) => start(frame) + 0.002,
      frame: (time) => frameAt(table, Math.round((time - zero + 0.002) * TICKS_PER_SECOND)),
    }
    let decoded: DecodedFrame | null = null
    const feed = new FrameFeed(url, clock, (_frame, frame) => (decoded = frame))
    await feed.decode(frameAt(table, layer.time), 'still')
    feed.dispose()
    if (!decoded) throw new Error(`A frame of ${name} could not be decoded.`)
    return this.load(decoded)
  }

  private feed(assetId: string): FrameFeed {
    let feed = this.feeds.get(assetId)
    if (!feed) {
      feed = new FrameFeed(this.sources[assetId]!.picture!.url, PROXY_CLOCK, (frame, decoded) =>
        this.keep(`${assetId}/${frame}`, decoded),
      )
      this.feeds.set(assetId, feed)
    }
    return feed
  }

  private keep(key: string, decoded: DecodedFrame): void {
    if (this.frames.has(key)) return
    this.frames.set(key, decoded)
    this.frameBytes += decoded.planes.length
    while (this.frameBytes > KEPT_BYTES) {
      const [oldest, old] = this.frames.entries().next().value!
      this.frames.delete(oldest)
      this.frameBytes -= old.planes.length
    }
  }

  /** A slot's picture with these planes; unchanged when it has them already. */
  private fill(slot: string, key: string, decoded: DecodedFrame): Picture {
    const kept = this.slots.get(slot)
    if (kept?.key === key) return kept.picture
    if (
      kept &&
      kept.picture.width === decoded.width &&
      kept.picture.height === decoded.height &&
      kept.picture.fits(decoded.matrix, decoded.range)
    ) {
      kept.picture.bytes().set(decoded.planes)
      kept.picture.changed()
      kept.key = key
      return kept.picture
    }
    kept?.picture.release()
    const picture = this.load(decoded)
    this.slots.set(slot, { key, picture })
    return picture
  }

  private load({ width, height, matrix, range, planes }: DecodedFrame): Picture {
    const picture = Picture.i420(this.engine, width, height, matrix, range)
    picture.bytes().set(planes)
    return picture
  }

  private still(url: string): Promise<Picture> {
    let still = this.stills.get(url)
    if (!still) {
      still = this.loadStill(url)
      still.catch(() => this.stills.delete(url))
      this.stills.set(url, still)
    }
    return still
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
