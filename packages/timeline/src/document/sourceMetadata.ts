import { z } from 'zod'
import type { AssetFacts } from './asset'
import { frameTableSchema } from './frameTable'
import { MAX_TICKS, rateSchema, ticksSchema } from './values'
import { TICKS_PER_SAMPLE } from '../time/ticks'

/** Frames a second that proxies are written with: a frame's number is its time, whatever the source's own times are. */
export const PROXY_RATE = 25
/** Frames between a proxy's keyframes. */
export const PROXY_KEYFRAMES = 15
/** Frames of a piece of a proxy that can be used before the whole of it is there. */
export const PROXY_PIECE = 16 * PROXY_KEYFRAMES
/** Most sound streams of one file that are taken in. */
export const MOST_STREAMS = 64

/** What probing found out about a stored file, whoever added it. Times in ticks. */
export const sourceMetadataSchema = z.object({
  kind: z.enum(['video', 'sound', 'still']),
  container: z.string(),
  /** For stills, how the picture is coded. */
  stillFormat: z.enum(['jpeg', 'png', 'webp', 'tiff', 'gif', 'heic', 'avif', 'bmp']).nullable(),
  /** Start of the container's clock and of the first picture on it. */
  start: z.int(),
  zero: z.int(),
  /** Seeking by time lands on the frame that the table names; else frames are found by counting from the first. */
  seekable: z.boolean(),
  table: frameTableSchema.nullable(),
  /** Size of the pictures as they come out of the input transform, upright and with square pixels. */
  width: z.int().nullable(),
  height: z.int().nullable(),
  alpha: z.boolean(),
  /** The input transform as ffmpeg filters, in order. */
  filters: z.array(z.string()),
  videoIndex: z.int().nullable(),
  videoCodec: z.string().nullable(),
  rate: rateSchema.nullable(),
  variable: z.boolean(),
  length: ticksSchema,
  sounds: z.array(
    z.object({
      index: z.int(),
      codec: z.string(),
      channels: z.int().min(1).max(64),
      sampleRate: z.number(),
      title: z.string(),
      /** Samples a channel at 48 kHz; 0 before the sound was decoded. */
      samples: z.int(),
    }),
  ),
  /** What was done to the source that the person may want to know. */
  notes: z.array(z.string()),
})
export type SourceMetadata = z.infer<typeof sourceMetadataSchema>

/** A name as documents hold it: without what can't be stored, not empty, at most 200 characters. */
export function assetName(name: string): string {
  return name.toWellFormed().replaceAll('\0', '').trim().slice(0, 200).toWellFormed().trim() || 'Untitled'
}

/** What the document says of a source, from what is known of its file. Always in the document's own shape. */
export function assetFacts(id: string, name: string, metadata: SourceMetadata): AssetFacts {
  const { kind, width, height, alpha, rate, variable, length } = metadata
  const moving = kind === 'video' ? { rate: rate ?? { num: 30, den: 1 }, variable } : { rate: null, variable: false }
  return {
    id,
    name: assetName(name),
    kind,
    length,
    picture: kind === 'sound' || !width || !height ? null : { width, height, alpha, ...moving },
    sounds: metadata.sounds.map(({ channels, title, samples }) => ({
      channels,
      title,
      length: samples > 0 ? Math.min(samples * TICKS_PER_SAMPLE, MAX_TICKS) : length,
    })),
  }
}
