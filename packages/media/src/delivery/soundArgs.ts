import type { SoundCodec } from '@dusk/interchange'
import type { Quality } from './pictureArgs'

/** Bits a second of the sound for each codec and quality; the rest is not counted in bits. */
const BITS: Partial<Record<SoundCodec, Record<Quality, number>>> = {
  aac: { draft: 128_000, good: 192_000, best: 320_000 },
  opus: { draft: 96_000, good: 128_000, best: 192_000 },
  mp3: { draft: 128_000, good: 192_000, best: 320_000 },
}

/**
 * A simpler search for how coarse each band of AAC may be, which takes half as long. From 128 kbit/s on what it leaves
 * is nearer the original (ffmpeg-codecs, aac_coder; 59 dB to 38 at 192 kbit/s, of a waltz with voices). Where there are
 * bits to spare, the longer search spends them better in the highest bands.
 */
const QUICK = ['-aac_coder', 'fast']

/** ffmpeg's arguments for a codec of sound in a file of its own. */
export function soundArgs(codec: SoundCodec, quality: Quality): string[] {
  const bits = BITS[codec]?.[quality]
  const rate = bits ? ['-b:a', String(bits)] : []
  switch (codec) {
    case 'aac':
      return ['-c:a', 'aac', ...(quality === 'best' ? [] : QUICK), ...rate, '-movflags', '+faststart', '-f', 'mp4']
    case 'opus':
      return ['-c:a', 'libopus', ...rate, '-f', 'ogg']
    case 'mp3':
      return ['-c:a', 'libmp3lame', ...rate, '-f', 'mp3']
    case 'flac':
      return ['-c:a', 'flac', '-sample_fmt', 's32', '-f', 'flac']
    case 'pcm':
      return ['-c:a', 'pcm_s24le', '-f', 'wav']
  }
}
