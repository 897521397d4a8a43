import { writeFile } from 'node:fs/promises'
import { EncodedPacketSink, type InputVideoTrack } from 'mediabunny'
import type { Rate } from '@dusk/timeline'
import { openIndexed } from '../indexedFilm'
import { chunkList, listInput, trackTimescale, type ChunkFile } from '../join'
import { removeFile } from '../storage'
import { runTool } from '../tool'
import { replaceAvcConfig } from './avcBox'
import { mergeAvcConfigs, readAvcConfig, writeAvcConfig, type AvcConfig } from './avcConfig'
import { slicesOf, UNIT, unitKind, unitsOf } from './avcUnits'
import { bytesOf } from './bytesOf'
import type { CopyableFilm } from './copyableFilm'

/** By how many pictures decoding is ahead of showing in what is encoded here, at most. */
const OWN_DELAY = 3

/** A chunk that was encoded, or copied from frame `frame` of a film on. */
export interface MixedChunk extends ChunkFile {
  copied?: { film: CopyableFilm; frame: number }
}

/**
 * Joins chunks of which some were copied and some encoded to one MP4 of picture alone. Each picture is decoded as it
 * was encoded: the file names the parameter sets of all of them, which have identifiers of their own. Then all that was
 * copied is held against its film, picture by picture.
 * @throws when a picture is not there as it is coded in its film
 */
export async function joinMixed(
  joining: {
    chunks: readonly MixedChunk[]
    rate: Rate
    out: string
    /** A path for the list of chunks. */
    scratch: string
  },
  signal?: AbortSignal,
): Promise<void> {
  const { chunks, rate, out, scratch } = joining
  const films = [...new Set(chunks.flatMap(({ copied }) => copied?.film ?? []))]
  await writeFile(scratch, chunkList(chunks, rate))
  const delay = Math.max(OWN_DELAY, ...films.map((film) => film.delay))
  // Cameras and the encoder here decode ahead by different numbers of pictures: all by the most of any.
  // Times come to this filter as the file will count them, whatever it says of its own base.
  const timescale = trackTimescale(rate)
  const times = `setts=pts=PTS:dts=(N-${delay})*${(rate.den * timescale) / rate.num}`
  try {
    await runTool(
      'ffmpeg',
      [
        ...['-v', 'error', '-nostdin', '-y', ...listInput(scratch), '-map', '0:v:0', '-c', 'copy'],
        ...['-bsf:v', times, '-video_track_timescale', String(timescale), '-f', 'mp4', out],
      ],
      { signal },
    )
  } finally {
    await removeFile(scratch)
  }
  const input = openIndexed(out)
  try {
    const track = await input.getPrimaryVideoTrack()
    const config = readAvcConfig(bytesOf((await track?.getDecoderConfig())?.description))
    if (!track || !config) throw new Error('The joined film is not in H.264.')
    await prove(track, config, joining, signal)
    const own = await encodedConfig(track, config, joining)
    const all = mergeAvcConfigs([config, ...films.map((film) => film.config), ...(own ? [own] : [])])
    await replaceAvcConfig(out, writeAvcConfig(all))
  } finally {
    input.dispose()
  }
}

/** The configuration of what was encoded: it comes before the first picture of its first chunk. */
async function encodedConfig(
  track: InputVideoTrack,
  { lengthBytes }: AvcConfig,
  { chunks, rate }: { chunks: readonly MixedChunk[]; rate: Rate },
): Promise<AvcConfig | null> {
  const n = chunks.findIndex(({ copied }) => !copied)
  if (n < 0) return null
  const before = chunks.slice(0, n).reduce((sum, { frames }) => sum + frames, 0)
  const packet = await new EncodedPacketSink(track).getPacket(((before + 0.5) * rate.den) / rate.num)
  const units = [...unitsOf(packet!.data, lengthBytes)]
  const sequences = units.filter((unit) => unitKind(unit) === UNIT.sequence)
  const pictures = units.filter((unit) => unitKind(unit) === UNIT.picture)
  const [, profile, compatibility, level] = sequences[0]!
  return { profile: profile!, compatibility: compatibility!, level: level!, lengthBytes, sequences, pictures }
}

/** Holds the pictures that were copied against those of their films. */
async function prove(
  track: InputVideoTrack,
  { lengthBytes }: AvcConfig,
  { chunks, rate }: { chunks: readonly MixedChunk[]; rate: Rate },
  signal?: AbortSignal,
): Promise<void> {
  const packets = new EncodedPacketSink(track).packets()
  let first = 0
  try {
    for (const { frames, copied } of chunks) {
      const originals = copied?.film.pictures(copied.frame, frames)
      for (let n = 0; n < frames; n++) {
        signal?.throwIfAborted()
        const { value: packet } = await packets.next()
        if (!originals) continue
        const { value: original } = await originals.next()
        const number = packet ? Math.round((packet.timestamp * rate.num) / rate.den) : -1
        const like =
          packet &&
          original &&
          number - first === original.frame - copied!.frame &&
          sameUnits(slicesOf(packet.data, lengthBytes), slicesOf(original.data, copied!.film.config.lengthBytes))
        if (!like) throw new Error(`Frame ${number} of the joined film is not the one that was to be copied.`)
      }
      await originals?.return(undefined)
      first += frames
    }
  } finally {
    await packets.return(undefined)
  }
}

const sameUnits = (a: readonly Uint8Array[], b: readonly Uint8Array[]) =>
  a.length === b.length && a.every((unit, i) => Buffer.compare(unit, b[i]!) === 0)
