import { greatest, group, sum } from 'd3-array'

/** A chunk of a render that is estimated, and the bytes of its file where it is there. */
export interface EstimatedChunk {
  frames: number
  /** Copied as it is coded, which makes other bytes of a frame than drawing it. */
  copied: boolean
  /** What is seen in it, as a text: chunks of the same film are more alike than others. */
  kind: string
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
 * The order in which chunks tell most: each time one of the kind of which the most frames stand behind each that is
 * taken (the highest averages of D'Hondt, 1882), and those of a kind such that the first few lie evenly over it.
 * @returns their places in `chunks`
 */
export function sampleOrder(chunks: readonly Pick<EstimatedChunk, 'frames' | 'kind'>[]): number[] {
  const places = chunks.map((_, i) => i)
  const kinds = [...group(places, (i) => chunks[i]!.kind).values()].map((own) => ({
    frames: sum(own, (i) => chunks[i]!.frames),
    order: spreadOrder(own.length).map((i) => own[i]!),
    taken: 0,
  }))
  return places.map(() => {
    const next = greatest(
      kinds.filter(({ taken, order }) => taken < order.length),
      ({ frames, taken }) => frames / (taken + 1),
    )!
    return next.order[next.taken++]!
  })
}

/**
 * Bytes of all chunks, judged by those that are there: the separate ratio estimate of bytes to frames within each kind
 * (Cochran, Sampling Techniques, 3rd ed., 6.10), for what is drawn and what is copied each by itself, and its standard
 * error. Kinds of which none is there are taken for what all others are together.
 * @returns `spread` as part of the bytes, 1 where a single chunk says nothing of how far others are from it; `null`
 * where nothing is known of some
 */
export function estimateChunks(chunks: readonly EstimatedChunk[]): { bytes: number; spread: number } | null {
  let [bytes, variance] = [0, 0]
  for (const copied of [false, true]) {
    const all = chunks.filter((chunk) => chunk.copied === copied)
    const known = all.filter(isKnown)
    if (known.length === 0 && all.length > 0) return null
    const own = known.length === all.length ? { bytes: sum(known, sizeOf), variance: 0 } : estimateKinds(all, known)
    bytes += own.bytes
    variance += own.variance
  }
  return { bytes, spread: bytes > 0 ? Math.min(1, Math.sqrt(variance) / bytes) : 0 }
}

type KnownChunk = EstimatedChunk & { bytes: number }
const isKnown = (chunk: EstimatedChunk): chunk is KnownChunk => chunk.bytes !== null
const sizeOf = ({ bytes }: KnownChunk) => bytes
const framesOf = ({ frames }: EstimatedChunk) => frames

/** Bytes to a frame of some chunks, and the variance of a chunk's bytes about that; none for a single one. */
function ratioOf(known: readonly KnownChunk[]): { perFrame: number; variance: number | undefined } {
  const perFrame = sum(known, sizeOf) / sum(known, framesOf)
  const off = sum(known, ({ bytes, frames }) => (bytes - perFrame * frames) ** 2)
  return { perFrame, variance: known.length > 1 ? off / (known.length - 1) : undefined }
}

/** Bytes of chunks of several kinds of which some are there, and the variance of that. */
function estimateKinds(
  all: readonly EstimatedChunk[],
  known: readonly KnownChunk[],
): { bytes: number; variance: number } {
  const among = ratioOf(known)
  if (among.variance === undefined) {
    const bytes = among.perFrame * sum(all, framesOf)
    return { bytes, variance: bytes ** 2 }
  }
  let [bytes, variance, unseen] = [0, 0, 0]
  for (const own of group(all, ({ kind }) => kind).values()) {
    const there = own.filter(isKnown)
    if (there.length === 0) {
      bytes += among.perFrame * sum(own, framesOf)
      // They may all be as far from the others as one is.
      variance += own.length ** 2 * among.variance
      unseen += own.length
      continue
    }
    const { perFrame, variance: off = among.variance } = ratioOf(there)
    bytes += perFrame * sum(own, framesOf)
    variance += (own.length ** 2 * (1 - there.length / own.length) * off) / there.length
  }
  return { bytes, variance: variance + (unseen ** 2 * among.variance) / known.length }
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
