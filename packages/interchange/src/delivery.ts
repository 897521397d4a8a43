import { framesPerSecond, type Rate } from '@dusk/timeline'
import { z } from 'zod'

/** Codecs of pictures in finished files. */
export type PictureCodec = 'h264' | 'h265' | 'av1' | 'vp9' | 'prores' | 'gif' | 'webp' | 'png' | 'jpeg'
/** Codecs of sound in finished files. */
export type SoundCodec = 'aac' | 'opus' | 'pcm' | 'flac' | 'mp3'

/** A kind of file that a reel is delivered as. */
export interface Delivery {
  /** What it is called, and what it is good for. */
  label: string
  hint: string
  /** Ending of the file's name, and its media type. */
  ending: string
  type: string
  /** `null` where there is none. */
  picture: PictureCodec | null
  sound: SoundCodec | null
  /** What is seen through the reel can stay so. */
  alpha: boolean
  /** A film, pictures that repeat, a file for each picture, one picture, or sound alone. */
  kind: 'film' | 'loop' | 'pictures' | 'still' | 'sound'
}

const film = (
  label: string,
  hint: string,
  ending: string,
  type: string,
  picture: PictureCodec,
  sound: SoundCodec,
  alpha = false,
): Delivery => ({ label, hint, ending, type, picture, sound, alpha, kind: 'film' })
const soundAlone = (label: string, hint: string, ending: string, type: string, sound: SoundCodec): Delivery => ({
  ...{ label, hint, ending, type, sound, picture: null, alpha: false, kind: 'sound' },
})

/** Everything that a reel can be delivered as, by its id. */
export const DELIVERIES = {
  'mp4-h264': film('MP4, H.264', 'plays everywhere', 'mp4', 'video/mp4', 'h264', 'aac'),
  'mp4-h265': film('MP4, H.265', 'smaller, for newer devices', 'mp4', 'video/mp4', 'h265', 'aac'),
  'mp4-av1': film('MP4, AV1', 'smallest, takes its time', 'mp4', 'video/mp4', 'av1', 'aac'),
  'mov-h264': film('MOV, H.264', 'with uncompressed sound', 'mov', 'video/quicktime', 'h264', 'pcm'),
  'mov-prores': film('MOV, ProRes', 'for cutting on; very large', 'mov', 'video/quicktime', 'prores', 'pcm', true),
  'mkv-h264': film('MKV, H.264', 'with lossless sound', 'mkv', 'video/x-matroska', 'h264', 'flac'),
  'mkv-h265': film('MKV, H.265', 'smaller, with lossless sound', 'mkv', 'video/x-matroska', 'h265', 'flac'),
  'webm-vp9': film('WebM, VP9', 'for pages', 'webm', 'video/webm', 'vp9', 'opus', true),
  'webm-av1': film('WebM, AV1', 'for pages, smallest', 'webm', 'video/webm', 'av1', 'opus'),
  gif: {
    ...{ label: 'GIF', hint: 'moving picture for anywhere, 256 colours', ending: 'gif', type: 'image/gif' },
    ...{ picture: 'gif', sound: null, alpha: false, kind: 'loop' },
  },
  webp: {
    ...{ label: 'WebP', hint: 'moving picture for pages', ending: 'webp', type: 'image/webp' },
    ...{ picture: 'webp', sound: null, alpha: true, kind: 'loop' },
  },
  'png-frames': {
    ...{ label: 'PNG pictures', hint: 'each frame a picture, in a ZIP', ending: 'zip', type: 'application/zip' },
    ...{ picture: 'png', sound: null, alpha: true, kind: 'pictures' },
  },
  'jpeg-frames': {
    ...{
      label: 'JPEG pictures',
      hint: 'each frame a smaller picture, in a ZIP',
      ending: 'zip',
      type: 'application/zip',
    },
    ...{ picture: 'jpeg', sound: null, alpha: false, kind: 'pictures' },
  },
  'png-still': {
    ...{ label: 'PNG still', hint: 'the first frame', ending: 'png', type: 'image/png' },
    ...{ picture: 'png', sound: null, alpha: true, kind: 'still' },
  },
  wav: soundAlone('WAV', 'uncompressed', 'wav', 'audio/wav', 'pcm'),
  flac: soundAlone('FLAC', 'lossless, half the size', 'flac', 'audio/flac', 'flac'),
  m4a: soundAlone('M4A, AAC', 'small, plays everywhere', 'm4a', 'audio/mp4', 'aac'),
  mp3: soundAlone('MP3', 'small, plays everywhere', 'mp3', 'audio/mpeg', 'mp3'),
  opus: soundAlone('Opus', 'smallest', 'opus', 'audio/ogg', 'opus'),
} as const satisfies Record<string, Delivery>

export type DeliveryId = keyof typeof DELIVERIES
export const deliverySchema = z.enum(Object.keys(DELIVERIES) as [DeliveryId, ...DeliveryId[]])

/** Codecs that have more and less: of the rest every file is as good as it can be. */
const GRADED: readonly string[] = ['h264', 'h265', 'av1', 'vp9', 'prores', 'gif', 'webp', 'jpeg', 'aac', 'opus', 'mp3']

/** Whether a choice of quality changes anything about a delivery. */
export const hasQuality = ({ picture, sound }: Delivery) =>
  GRADED.includes(picture ?? '') || (!picture && GRADED.includes(sound ?? ''))

/** Whether bits a second can be aimed at: films whose codec does not have a size of its own. */
export const hasBitrate = ({ kind, picture }: Delivery) => kind === 'film' && picture !== 'prores'

/** Whether a film can be made to fit into a size: those whose encoder looks at all of it first. */
export const canFit = (delivery: Delivery) => hasBitrate(delivery) && delivery.picture !== 'av1'

/** Whether coded pictures of films can be taken over into a file of this kind. */
export const canCopy = ({ kind, picture }: Delivery) => kind === 'film' && picture === 'h264'

/** How long an encoder looks for ways to save bits. */
export const encoderSpeedSchema = z.enum(['quick', 'even', 'thorough'])
export type EncoderSpeed = z.infer<typeof encoderSpeedSchema>

/** The delivery of an id; that of before there was a choice where none is given. */
export function deliveryOf(id: DeliveryId | undefined): Delivery {
  return DELIVERIES[id ?? 'mp4-h264']
}

/** What codecs can't go beyond, where that is within what a reel can be. */
const LIMITS: Partial<Record<PictureCodec, { leastSide?: number; mostRate?: Rate }>> = {
  // SVT-AV1 codes in blocks of 64 × 64 and refuses anything smaller.
  av1: { leastSide: 64 },
  // A GIF counts in hundredths of a second, and players show what is to last one of them for ten.
  gif: { mostRate: { num: 50, den: 1 } },
}

/** The rate that a file of this kind is made at where another is wanted: the same, or the most that it can hold. */
export function heldRate({ picture }: Delivery, rate: Rate): Rate {
  const most = picture ? LIMITS[picture]?.mostRate : undefined
  return most && framesPerSecond(rate) > framesPerSecond(most) ? most : rate
}

/** Why a file of this kind can't be of this size or rate, in words, with the field at fault; `null` where it can. */
export function beyondCodec(
  delivery: Delivery,
  { width, height, rate }: { width: number; height: number; rate: Rate },
): { field: 'size' | 'rate'; words: string } | null {
  const { leastSide } = (delivery.picture && LIMITS[delivery.picture]) ?? {}
  if (leastSide && Math.min(width, height) < leastSide)
    return {
      field: 'size',
      words: `${delivery.label} takes pictures from ${leastSide} × ${leastSide} on, and this one is ${width} × ${height}.`,
    }
  const held = heldRate(delivery, rate)
  if (held !== rate)
    return {
      field: 'rate',
      words: `${delivery.label} shows ${framesPerSecond(held)} pictures a second at most: players slow down faster ones.`,
    }
  return null
}
