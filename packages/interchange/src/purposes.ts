import { z } from 'zod'
import { rateSchema, sameRate, type Format, type Rate } from '@dusk/timeline'
import { canCopy, canFit, deliveryOf, deliverySchema, encoderSpeedSchema, hasBitrate, heldRate } from './delivery'

/** What a file is made like, whatever reel it is made of. */
export const purposeSettingsSchema = z.object({
  format: deliverySchema,
  quality: z.enum(['draft', 'good', 'best']),
  /** Megabits a second that are aimed at instead of a quality; `null` goes by quality. */
  megabits: z.number().min(0.05).max(400).nullable(),
  /** Megabytes that the file fits into, instead of a quality; `null` leaves it as large as it comes out. */
  megabytes: z.number().min(0.1).max(100_000).nullable().default(null),
  /** How long the encoder looks for ways to save bits. */
  speed: encoderSpeedSchema.default('even'),
  /** Shots that nothing is done to are copied as they are coded; where the file goes by quality. */
  streamCopy: z.boolean().default(false),
  /** Width to height such as `16:9`, or `reel` for the reel's own. */
  shape: z.string().regex(/^(reel|\d{1,3}:\d{1,3})$/, 'expected reel, or a shape such as 16:9'),
  /** Pixels of the shorter side; 0 for the reel's own. */
  side: z.int().min(0).max(8192),
  /** How the reel lies in another shape. */
  fit: z.enum(['fit', 'fill']),
  /** Frames a second; `null` for the reel's own. */
  rate: rateSchema.nullable(),
  sound: z.boolean(),
  /** LUFS that all of it is brought to; `null` leaves it as it was mixed. */
  loudness: z.number().min(-40).max(-5).nullable(),
  alpha: z.boolean(),
  dither: z.enum(['fine', 'pattern', 'none']),
  chapters: z.boolean(),
})
export type PurposeSettings = z.infer<typeof purposeSettingsSchema>

/** Settings of a render under the name of what it is for. */
export const ownPurposeSchema = z.object({
  id: z.uuid(),
  name: z.string().trim().min(1).max(60),
  settings: purposeSettingsSchema,
})
export type OwnPurpose = z.infer<typeof ownPurposeSchema>

/** A file in which a purpose is handed on. */
export const purposeFileSchema = z.object({
  duskPurpose: z.literal(1),
  name: ownPurposeSchema.shape.name,
  settings: purposeSettingsSchema,
})

export const AS_REEL: PurposeSettings = {
  ...{ format: 'mp4-h264', quality: 'good', megabits: null, shape: 'reel', side: 0, fit: 'fit', rate: null },
  ...{
    megabytes: null,
    speed: 'even',
    streamCopy: false,
    sound: true,
    loudness: null,
    alpha: false,
    dither: 'fine',
    chapters: true,
  },
}

export interface Purpose {
  id: string
  name: string
  hint: string
  settings: PurposeSettings
}

/** What files are made for, as it ships. */
export const PURPOSES: readonly Purpose[] = [
  { id: 'asReel', name: 'As the reel', hint: 'its own size, plays everywhere', settings: AS_REEL },
  {
    id: 'wideUpload',
    name: 'Wide upload',
    hint: '1920 × 1080, as loud as upload places want it',
    settings: { ...AS_REEL, shape: '16:9', side: 1080, loudness: -14 },
  },
  {
    id: 'tallClip',
    name: 'Tall clip',
    hint: 'fills an upright phone',
    settings: { ...AS_REEL, shape: '9:16', side: 1080, fit: 'fill', loudness: -14 },
  },
  {
    id: 'squarePost',
    name: 'Square post',
    hint: 'as wide as it is high',
    settings: { ...AS_REEL, shape: '1:1', side: 1080, fit: 'fill', loudness: -14 },
  },
  {
    id: 'smallToSend',
    name: 'Small to send',
    hint: '480 lines, about 7 MB a minute',
    settings: { ...AS_REEL, side: 480, megabits: 0.8, loudness: -16 },
  },
  {
    id: 'forKeeping',
    name: 'For keeping',
    hint: 'best pictures, sound without loss',
    settings: { ...AS_REEL, format: 'mkv-h264', quality: 'best' },
  },
  {
    id: 'toCutOn',
    name: 'To cut on',
    hint: 'for another cutting program; very large',
    settings: { ...AS_REEL, format: 'mov-prores', quality: 'best', chapters: false },
  },
  {
    id: 'soundAlone',
    name: 'Sound alone',
    hint: 'what is heard, for listening',
    settings: { ...AS_REEL, format: 'm4a', loudness: -16 },
  },
  {
    id: 'pageLoop',
    name: 'Moving picture for a page',
    hint: 'repeats, without sound',
    settings: { ...AS_REEL, format: 'webp', side: 480 },
  },
]

/** The size of a file made for a purpose from a reel. */
export function fileSize(settings: PurposeSettings, reel: Format): { width: number; height: number } {
  const [across, down] = settings.shape === 'reel' ? [reel.width, reel.height] : settings.shape.split(':').map(Number)
  if (settings.shape === 'reel' && settings.side === 0) return { width: reel.width, height: reel.height }
  const scale = (settings.side || Math.min(reel.width, reel.height)) / Math.min(across!, down!)
  const even = (value: number) => Math.round((value * scale) / 2) * 2
  return { width: even(across!), height: even(down!) }
}

/** Whether a file has another shape than its reel, by more than rounding. */
export function isOtherShape(size: { width: number; height: number }, reel: Format): boolean {
  return Math.abs(size.width / size.height - reel.width / reel.height) > 0.02
}

/** Whether a file takes over what can be as it is coded: not where it has to keep to a number of bits. */
export function copiesStreams({ format, streamCopy, megabits, megabytes }: PurposeSettings): boolean {
  return streamCopy && canCopy(deliveryOf(format)) && megabits === null && megabytes === null
}

/** Settings of a render of a reel for a purpose, as a renderer is asked with them. */
export function renderSettings(
  settings: PurposeSettings,
  reel: Format,
  range: { from: number; to: number } | null,
  words: { title?: string; description?: string } = {},
) {
  const delivery = deliveryOf(settings.format)
  const { kind, alpha, picture, sound } = delivery
  const film = kind === 'film'
  const fits = canFit(delivery) && settings.megabytes !== null
  return {
    ...fileSize(settings, reel),
    rate: heldRate(delivery, settings.rate ?? reel.rate),
    quality: settings.quality,
    format: settings.format,
    range,
    fit: settings.fit,
    sound: sound !== null && (settings.sound || !film),
    loudness: sound !== null ? settings.loudness : null,
    ...(hasBitrate(delivery) && settings.megabits && !fits ? { bitrate: Math.round(settings.megabits * 1e6) } : {}),
    ...(fits ? { maxBytes: Math.round(settings.megabytes! * 1e6) } : {}),
    ...(hasBitrate(delivery) && settings.speed !== 'even' ? { speed: settings.speed } : {}),
    ...(copiesStreams(settings) ? { streamCopy: true } : {}),
    ...(alpha && settings.alpha && !fits ? { alpha: true } : {}),
    ...(picture === 'gif' ? { dither: settings.dither } : {}),
    ...(film && settings.chapters ? { chapters: true } : {}),
    ...(film && words.title ? { title: words.title } : {}),
    ...(film && words.description ? { description: words.description } : {}),
  }
}

/** What a render was made like, as a purpose that makes the same of its reel. */
export function purposeOf(
  settings: Partial<Omit<PurposeSettings, 'rate' | 'shape' | 'side' | 'megabits' | 'megabytes'>> & {
    width: number
    height: number
    rate: Rate
    bitrate?: number | null
    maxBytes?: number | null
  },
  reel: Format,
): PurposeSettings {
  const { width, height, rate, bitrate, maxBytes } = settings
  const size = { width, height }
  const own = width === reel.width && height === reel.height
  const parts = greatestCommonDivisor(width, height)
  const kept = purposeSettingsSchema.partial().safeParse(settings)
  return {
    ...AS_REEL,
    ...(kept.success ? definedOf(kept.data) : {}),
    chapters: settings.chapters ?? false,
    shape: isOtherShape(size, reel) ? `${width / parts}:${height / parts}` : 'reel',
    side: own ? 0 : Math.min(width, height),
    rate: sameRate(rate, reel.rate) ? null : rate,
    megabits: bitrate ? bitrate / 1e6 : null,
    megabytes: maxBytes ? maxBytes / 1e6 : null,
  }
}

function greatestCommonDivisor(a: number, b: number): number {
  return b === 0 ? a : greatestCommonDivisor(b, a % b)
}

/** An object without the entries that hold nothing. */
function definedOf<T extends object>(value: T): T {
  return Object.fromEntries(Object.entries(value).filter(([, entry]) => entry !== undefined)) as T
}
