import { deliveryOf, type PictureCodec, type PurposeSettings } from '@dusk/interchange'
import { framesPerSecond, type Rate } from '@dusk/timeline'

/** Bits that each pixel takes where much moves; drawn and quiet pictures take down to a quarter. */
const BITS: Partial<Record<PictureCodec, Record<PurposeSettings['quality'], number>>> = {
  h264: { draft: 0.07, good: 0.1, best: 0.18 },
  h265: { draft: 0.04, good: 0.065, best: 0.12 },
  av1: { draft: 0.02, good: 0.045, best: 0.1 },
  vp9: { draft: 0.03, good: 0.06, best: 0.14 },
  prores: { draft: 0.7, good: 2.3, best: 3.5 },
}
const SOUND_BITS: Record<string, Record<PurposeSettings['quality'], number>> = {
  aac: { draft: 128_000, good: 192_000, best: 320_000 },
  opus: { draft: 96_000, good: 128_000, best: 192_000 },
  mp3: { draft: 128_000, good: 192_000, best: 320_000 },
  pcm: { draft: 2_304_000, good: 2_304_000, best: 2_304_000 },
  flac: { draft: 1_300_000, good: 1_300_000, best: 1_300_000 },
}

/** What a file is to hold, as its size is judged by. */
export interface FileShape {
  width: number
  height: number
  rate: Rate
  seconds: number
  quality: PurposeSettings['quality']
  format?: PurposeSettings['format']
  sound: boolean
  bitrate?: number | null
  /** How long its encoder looks for ways to save bits. */
  speed?: PurposeSettings['speed']
  /** Shots that nothing is done to are copied as they are coded. */
  streamCopy?: boolean
  /** An encoder in a graphics chip. */
  hardware?: string | null
  /** Bytes that it fits into. */
  maxBytes?: number | null
}

function soundBytes({ format, quality, seconds, sound }: FileShape): number {
  const { sound: codec, kind } = deliveryOf(format)
  return codec && (sound || kind === 'sound') ? (SOUND_BITS[codec]![quality] * seconds) / 8 : 0
}
function pictureBytes({ width, height, rate, seconds, quality, format, bitrate }: FileShape): number {
  const { picture } = deliveryOf(format)
  if (bitrate) return (bitrate * seconds) / 8
  return picture ? (width * height * framesPerSecond(rate) * (BITS[picture]?.[quality] ?? NaN) * seconds) / 8 : 0
}

/**
 * Size of a finished file in bytes, from and to; `null` where it hangs on the picture alone. Going by a file of the
 * same kind that was made of the same reel it is one number.
 */
export function estimateBytes(
  wanted: FileShape,
  made: (FileShape & { bytes: number }) | null,
): [number, number] | null {
  if (wanted.maxBytes) return [wanted.maxBytes, wanted.maxBytes]
  const [heard, seen] = [soundBytes(wanted), pictureBytes(wanted)]
  if (wanted.bitrate || seen === 0) return [heard + seen, heard + seen]
  if (made && (made.format ?? 'mp4-h264') === (wanted.format ?? 'mp4-h264') && !made.bitrate && !made.maxBytes) {
    const pixels = (shape: FileShape) => shape.width * shape.height
    const amount = (shape: FileShape) => pixels(shape) * framesPerSecond(shape.rate) * shape.seconds
    const better = Number.isNaN(seen) ? 1 : seen / amount(wanted) / (pictureBytes(made) / amount(made))
    // Fewer pixels hold more detail each: bits grow with about the three-quarter power of their number.
    const denser = (pixels(made) / pixels(wanted)) ** 0.25
    const perPixel = Math.max(0, made.bytes - soundBytes(made)) / amount(made)
    const bytes = perPixel * amount(wanted) * better * denser + heard
    return [bytes, bytes]
  }
  // What is copied is as large as its camera made it.
  if (Number.isNaN(seen) || wanted.streamCopy) return null
  // Its bits hardly hang on what is seen.
  const least = deliveryOf(wanted.format).picture === 'prores' ? seen * 0.7 : seen / 4
  return [least + heard, seen + heard]
}
