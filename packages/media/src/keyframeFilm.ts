import {
  BufferTarget,
  EncodedPacketSink,
  EncodedVideoPacketSource,
  Mp4OutputFormat,
  Output,
  type EncodedPacket,
} from 'mediabunny'
import { openIndexed } from './indexedFilm'

/** Keyframes of a film one after the other, as a small MP4 of their own. */
export interface KeyframeFilm {
  bytes: Buffer
  /** How many there are. */
  count: number
  /** For each place that was asked for, the number of its keyframe. */
  indices: number[]
}

/** Seconds between two of them: their own times say nothing here. */
const STEP = 1 / 25
/** A place is met by a keyframe that begins no later than this many seconds after it: clocks are rounded. */
const EARLY = 1e-4

/**
 * Copies the keyframes before places of a film out of it by its index, without reading what lies between: all of them
 * are then decoded by one run of a decoder.
 * @param seconds places on the file's own clock, ascending
 * @returns `null` where the file has no index that is read here, or more than one picture
 */
export async function copyKeyframes(path: string, seconds: readonly number[]): Promise<KeyframeFilm | null> {
  const input = openIndexed(path)
  try {
    const tracks = await input.getVideoTracks()
    const [track] = tracks
    const decoderConfig = await track?.getDecoderConfig()
    if (tracks.length !== 1 || !track?.codec || !decoderConfig) return null
    const sink = new EncodedPacketSink(track)
    const found: EncodedPacket[] = []
    const indices: number[] = []
    for (const second of seconds) {
      const packet = (await sink.getKeyPacket(second + EARLY)) ?? (await sink.getFirstPacket())
      if (!packet) return null
      if (packet.timestamp !== found.at(-1)?.timestamp) found.push(packet)
      indices.push(found.length - 1)
    }
    const target = new BufferTarget()
    const output = new Output({ format: new Mp4OutputFormat(), target })
    const source = new EncodedVideoPacketSource(track.codec)
    output.addVideoTrack(source, { rotation: track.rotation })
    await output.start()
    for (const [i, packet] of found.entries())
      await source.add(packet.clone({ timestamp: i * STEP, duration: STEP }), { decoderConfig })
    await output.finalize()
    return { bytes: Buffer.from(target.buffer!), count: found.length, indices }
  } finally {
    input.dispose()
  }
}
