import { sum } from 'd3-array'

/** A chunk of a render that is estimated, and the bytes of its file where it is there. */
export interface EstimatedChunk {
  frames: number
  /** Copied as it is coded, which makes other bytes of a frame than drawing it. */
  copied: boolean
  bytes: number | null
}

/**
 * Numbers from 0 up to a count, such that the first few already lie evenly over all of them: the sequence of van der
 * Corput (1935) in base 2.
 */
export function spreadOrder(count: number): number[] {
  const bits = Math.max(0, Math.ceil(Math.log2(count)))
  const order = new Set<number>()
  for (let i = 0; i < 2 ** bits && count > 0; i++) {
    let mirrored = 0
    for (let bit = 0; bit < bits; bit++) if (i & (1 << bit)) mirrored |= 1 << (bits - 1 - bit)
    order.add(Math.floor((mirrored * count) / 2 ** bits))
  }
  return [...order]
}

/**
 * Bytes of all chunks, judged by those that are there: the ratio estimate of bytes to frames, for what is drawn and
 * what is copied each by itself, and its standard error (Cochran, Sampling Techniques, 3rd ed., 6.4).
 * @returns `spread` as part of the bytes, 1 where a single chunk says nothing of how far others are from it; `null`
 * where nothing is known of some
 */
export function estimateChunks(chunks: readonly EstimatedChunk[]): { bytes: number; spread: number } | null {
  let [bytes, variance] = [0, 0]
  for (const copied of [false, true]) {
    const all = chunks.filter((chunk) => chunk.copied === copied)
    const known = all.filter((chunk): chunk is EstimatedChunk & { bytes: number } => chunk.bytes !== null)
    const there = sum(known, (chunk) => chunk.bytes)
    if (known.length === all.length) {
      bytes += there
      continue
    }
    if (known.length === 0) return null
    const perFrame = there / sum(known, ({ frames }) => frames)
    const own = perFrame * sum(all, ({ frames }) => frames)
    bytes += own
    if (known.length === 1) variance += own ** 2
    else {
      const off = sum(known, (chunk) => (chunk.bytes - perFrame * chunk.frames) ** 2) / (known.length - 1)
      variance += (all.length ** 2 * (1 - known.length / all.length) * off) / known.length
    }
  }
  return { bytes, spread: bytes > 0 ? Math.min(1, Math.sqrt(variance) / bytes) : 0 }
}

/** Processors that mixing and encoding sound keep busy: the encoder waits for the mixer and the other way round. */
const SOUND_PROCESSORS = 1.2

/**
 * Seconds of drawing pictures while sound is mixed beside them: where pictures keep every processor busy, sound takes
 * its part of them away.
 * @param pictures seconds that the pictures take alone
 * @param sound seconds that the sound takes alone
 * @param processors of the machine
 */
export function besideEachOther(pictures: number, sound: number, processors: number): number {
  return Math.max(sound, pictures + sound * Math.min(1, SOUND_PROCESSORS / processors))
}
