import type { SoundPiece } from '@dusk/timeline'
import { downmix } from '../downmix'
import { Mixer, type SourceOf } from './mixer'
import type { PieceSource, StereoReader } from './pieceSource'
import { StretchedSource, type StretchEngines } from '../stretch/stretchedSource'

/** Interleaved samples of a source. */
export interface SoundBlock {
  channels: number
  samples: Float32Array
}

/**
 * Reads `count` samples from sample `from` of a stream. What lies before its start is never asked for; a reader
 * may return fewer than asked for at the end.
 */
export type SoundReader = (assetId: string, stream: number, from: number, count: number) => Promise<SoundBlock>

/** Reads a stream of a source as stereo. */
export function stereoReader(read: SoundReader, assetId: string, stream: number): StereoReader {
  return async (from, count) => {
    const first = Math.max(0, from)
    if (first >= from + count) return new Float32Array(count * 2)
    const block = await read(assetId, stream, first, from + count - first)
    // Stereo and whole, as most of it is: nothing to turn or to fill up.
    if (block.channels === 2 && block.samples.length === count * 2) return block.samples
    const out = new Float32Array(count * 2)
    toStereo(block, out, first - from)
    return out
  }
}

/** Folds a block down into `out` from its sample `at` on. */
export function toStereo({ channels, samples }: SoundBlock, out: Float32Array, at: number): void {
  const n = Math.min(out.length / 2 - at, Math.floor(samples.length / channels))
  if (channels <= 2) {
    const second = channels - 1
    for (let i = 0, o = at * 2, s = 0; i < n; i++, o += 2, s += channels) {
      out[o] = samples[s]!
      out[o + 1] = samples[s + second]!
    }
    return
  }
  const { left, right } = downmix(channels)
  for (let i = 0; i < n; i++) {
    let [l, r] = [0, 0]
    for (let c = 0; c < channels; c++) {
      const value = samples[i * channels + c]!
      l += value * left[c]!
      r += value * right[c]!
    }
    out[(at + i) * 2] = l
    out[(at + i) * 2 + 1] = r
  }
}

/** A nested reel: a mixer of its own that runs on, and seeks where it is read elsewhere. */
class NestedReader {
  private readonly mixer: Mixer
  private started = false

  constructor(piece: SoundPiece, sourceOf: SourceOf) {
    this.mixer = new Mixer(piece.nested!, sourceOf)
  }

  readonly read: StereoReader = async (from, count) => {
    if (!this.started || this.mixer.at !== from) await this.mixer.seek(from)
    this.started = true
    return this.mixer.render(count)
  }

  release(): void {
    this.mixer.release()
  }
}

/**
 * What pieces of a plan read from.
 * @param engines how sounds are stretched; without it, those that need to be are silent
 * @param contentOf names what a stream holds, so that what was stretched of it is kept; `null`: it is not there yet
 */
export function pieceSources(
  read: SoundReader,
  engines: StretchEngines | null,
  contentOf: (assetId: string, stream: number) => string | null = (assetId, stream) => `${assetId}/${stream}`,
): SourceOf {
  const sourceOf: SourceOf = (piece) => {
    const nested = piece.nested ? new NestedReader(piece, sourceOf) : null
    const stereo = nested?.read ?? stereoReader(read, piece.assetId, piece.stream)
    const release = () => nested?.release()
    if (!piece.time) return { read: (from, count) => stereo(piece.from + from, count), release }
    const key = piece.nested ? null : contentOf(piece.assetId, piece.stream)
    const stretched: PieceSource = new StretchedSource(piece, stereo, engines, key)
    return { read: (from, count) => stretched.read(from, count), release }
  }
  return sourceOf
}
