import { SAMPLE_RATE } from '@dusk/timeline'
import { soundByteRange, type SoundReader } from '@dusk/sound'
import { LRUCache } from 'lru-cache'
import type { Sources } from './messages'

/** Samples of source fetched at a time, and how many such pieces are kept. */
const PIECE = SAMPLE_RATE
const KEPT_PIECES = 240

/** Sounds of the project, fetched by the second and kept for a while. */
export class PcmCache {
  sources: Sources = {}
  private readonly pieces = new LRUCache<string, Promise<Float32Array>>({ max: KEPT_PIECES })

  private piece(url: string, index: number, channels: number, samples: number): Promise<Float32Array> {
    const key = `${url}/${index}`
    let found = this.pieces.get(key)
    if (!found) {
      const count = Math.min(PIECE, samples - index * PIECE)
      const { start, end } = soundByteRange(channels, index * PIECE, count)
      found = fetch(url, { headers: { range: `bytes=${start}-${end - 1}` } }).then(async (response) => {
        if (!response.ok) throw new Error(`The sound of a source could not be fetched (${response.status}).`)
        return new Float32Array(await response.arrayBuffer())
      })
      found.catch(() => this.pieces.delete(key))
      this.pieces.set(key, found)
    }
    return found
  }

  /** A source whose sound is not there yet is silent; it is heard as soon as it is. */
  readonly read: SoundReader = async (assetId, stream, from, count) => {
    const sound = this.sources[assetId]?.sounds[stream]
    const channels = sound?.channels ?? 1
    if (!sound?.ready) return { channels, samples: new Float32Array(0) }
    const end = Math.min(from + count, sound.samples)
    const out = new Float32Array(Math.max(0, end - from) * channels)
    for (let at = from; at < end;) {
      const index = Math.floor(at / PIECE)
      const part = await this.piece(sound.url, index, channels, sound.samples)
      const offset = at - index * PIECE
      const take = Math.min(end - at, PIECE - offset)
      out.set(part.subarray(offset * channels, (offset + take) * channels), (at - from) * channels)
      at += take
    }
    return { channels, samples: out }
  }
}
