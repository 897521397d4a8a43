import { EncodedPacketSink, type EncodedPacket, type Input } from 'mediabunny'
import { frameCount, type Rate, type SourceMetadata } from '@dusk/timeline'
import { openIndexed } from '../indexedFilm'
import { probe } from '../probe'
import { readAvcConfig, type AvcConfig } from './avcConfig'
import { UNIT, unitKind, unitsOf } from './avcUnits'
import { bytesOf } from './bytesOf'

/** A picture of a film, in the order in which they are decoded. */
interface Coded {
  packet: EncodedPacket
  /** Its number in the order in which they are shown. */
  frame: number
}

/**
 * Whether a source could be handed on as it is coded, by what is known of it: H.264 that nothing is done to on its way
 * in. Only {@link CopyableFilm.open} looks into the file.
 */
export function mayCopy(
  { kind, container, videoCodec, filters, seekable, table }: SourceMetadata,
  rate: Rate,
): boolean {
  return (
    kind === 'video' &&
    videoCodec === 'h264' &&
    container.split(',').includes('mp4') &&
    filters.length === 0 &&
    seekable &&
    table?.kind === 'constant' &&
    table.rate.num * rate.den === table.rate.den * rate.num
  )
}

/** A film in H.264 whose coded pictures can be copied from one that stands by itself to the next. */
export class CopyableFilm {
  /** Places in decoding order of the pictures that may stand by themselves, rising. */
  private readonly keys: number[]
  /** By how many pictures decoding is ahead of showing, at most. */
  readonly delay: number

  private constructor(
    private readonly input: Input,
    private readonly sink: EncodedPacketSink,
    private readonly coded: readonly Coded[],
    readonly config: AvcConfig,
    readonly path: string,
    readonly metadata: SourceMetadata,
  ) {
    this.keys = coded.flatMap(({ packet }, n) => (packet.type === 'key' ? [n] : []))
    this.delay = coded.reduce((most, { frame }, n) => Math.max(most, n - frame), 0)
  }

  /** Opens a film. @returns `null` where it can't be copied from: another coding, turned, woven, or an odd index */
  static async open(path: string, metadata: SourceMetadata): Promise<CopyableFilm | null> {
    const { video } = await probe(path)
    if (!video || video.codec !== 'h264' || video.pixelFormat !== 'yuv420p') return null
    if (video.rotation !== 0 || video.interlaced || video.pixelAspect !== 1) return null
    if (video.width !== metadata.width || video.height !== metadata.height) return null
    const input = openIndexed(path)
    try {
      const track = (await input.getVideoTracks()).find(({ id }) => id === video.track)
      const config = readAvcConfig(bytesOf((await track?.getDecoderConfig())?.description))
      if (!track || !config) throw new NotCopyable()
      const sink = new EncodedPacketSink(track)
      const packets: EncodedPacket[] = []
      for await (const packet of sink.packets(undefined, undefined, { metadataOnly: true })) packets.push(packet)
      // What an edit list leaves out, or shows twice, would have other numbers here than in the table.
      if (packets.length !== frameCount(metadata.table!)) throw new NotCopyable()
      const shown = packets.map((_, n) => n).sort((a, b) => packets[a]!.timestamp - packets[b]!.timestamp)
      const coded = packets.map((packet) => ({ packet, frame: 0 }))
      shown.forEach((n, frame) => (coded[n]!.frame = frame))
      return new CopyableFilm(input, sink, coded, config, path, metadata)
    } catch (error) {
      input.dispose()
      // What reads it here may find it odd where ffmpeg does not: it is encoded then, as ever.
      if (error instanceof NotCopyable || !isSystemError(error)) return null
      throw error
    }
  }

  get frames(): number {
    return this.coded.length
  }

  /**
   * The longest stretch within frames `first` to `end`, half-open, that stands by itself.
   * @returns its frames, half-open, or `null` where there is none
   */
  async within(first: number, end: number): Promise<{ first: number; end: number } | null> {
    const starts = this.keys.filter((n) => this.coded[n]!.frame >= first && this.coded[n]!.frame < end)
    let from: number | null = null
    for (const n of starts)
      if (await this.standsAlone(n)) {
        from = n
        break
      }
    if (from === null) return null
    if (end >= this.frames) return { first: this.coded[from]!.frame, end: this.frames }
    const ends = this.keys.filter((n) => n > from && this.coded[n]!.frame <= end)
    for (const n of ends.reverse())
      if (await this.standsAlone(n)) return { first: this.coded[from]!.frame, end: this.coded[n]!.frame }
    return null
  }

  /** Coded pictures from frame `first` on, `count` of them, in decoding order. Both ends stand by themselves. */
  async *pictures(first: number, count: number): AsyncGenerator<{ data: Uint8Array; frame: number; key: boolean }> {
    const from = this.keys.find((n) => this.coded[n]!.frame === first)
    if (from === undefined) throw new Error(`Frame ${first} of a film to copy does not stand by itself.`)
    const last = this.coded[from + count]?.packet
    let n = from
    for await (const packet of this.sink.packets(await this.whole(from), last))
      yield { data: packet.data, frame: this.coded[n++]!.frame, key: packet.type === 'key' }
  }

  close(): void {
    this.input.dispose()
  }

  /**
   * Whether decoding can begin at a picture: it makes the decoder forget all before it (an IDR picture, ITU-T H.264
   * § 7.4.1.2.4), and it brings no parameter sets other than the film's own.
   */
  private async standsAlone(n: number): Promise<boolean> {
    // All decoded before it are shown before it.
    if (this.coded[n]!.frame !== n) return false
    const { data } = await this.whole(n)
    const own = [...this.config.sequences, ...this.config.pictures]
    const units = unitsIn(data, this.config.lengthBytes)
    return (
      units.some((unit) => unitKind(unit) === UNIT.refresh) &&
      units
        .filter((unit) => unitKind(unit) === UNIT.sequence || unitKind(unit) === UNIT.picture)
        .every((unit) => own.some((known) => Buffer.compare(known, unit) === 0))
    )
  }

  /** A picture with its bytes. */
  private async whole(n: number): Promise<EncodedPacket> {
    const { timestamp } = this.coded[n]!.packet
    const packet = await this.sink.getPacket(timestamp)
    if (packet?.timestamp !== timestamp) throw new Error('The index of a film to copy leads elsewhere.')
    return packet
  }
}

/** Says that a film can't be copied from. */
class NotCopyable extends Error {}

/** The units of a picture; none where they don't fit into it. */
function unitsIn(data: Uint8Array, lengthBytes: number): Uint8Array[] {
  try {
    return [...unitsOf(data, lengthBytes)]
  } catch {
    return []
  }
}

/** Whether it is the disk that failed, and not what was read. */
const isSystemError = (error: unknown) => (error as NodeJS.ErrnoException).syscall !== undefined
