import { z } from 'zod'
import { labelSchema } from './clip'
import { idSchema, nameSchema, noteSchema, rateSchema, ticksSchema } from './values'

/**
 * What is known of a picture source once its input transform (turning, square pixels, deinterlacing) has been
 * applied.
 */
export const pictureInfoSchema = z.object({
  width: z.int().min(1).max(32_768),
  height: z.int().min(1).max(32_768),
  /** Nominal frame rate; `null` for stills. With `variable`, the average. */
  rate: rateSchema.nullable(),
  variable: z.boolean(),
  alpha: z.boolean(),
})

/** One sound stream of a source. */
export const soundInfoSchema = z.object({
  channels: z.int().min(1).max(64),
  /** Length from asset zero to the last sample, in ticks. */
  length: ticksSchema,
  title: z.string().max(200),
})

/**
 * What a source's file says of itself. Bytes, state and derived files are kept outside the document under the same
 * id.
 */
export const assetFactsSchema = z.object({
  id: idSchema,
  name: nameSchema,
  kind: z.enum(['video', 'sound', 'still']),
  /** Length in ticks; 0 for stills, which have no end. */
  length: ticksSchema,
  picture: pictureInfoSchema.nullable(),
  sounds: z.array(soundInfoSchema).max(64),
})

/** A source in the project's library, with where the person put it and what they said of it. */
export const assetSchema = assetFactsSchema.extend({
  folderId: idSchema.nullable(),
  label: labelSchema.nullable(),
  note: noteSchema,
})

export type PictureInfo = z.infer<typeof pictureInfoSchema>
export type SoundInfo = z.infer<typeof soundInfoSchema>
export type AssetFacts = z.infer<typeof assetFactsSchema>
export type Asset = z.infer<typeof assetSchema>

/**
 * How much of a source one of its streams holds, in ticks: a sound stream's own length, or with `null` the
 * picture's.
 */
export function sourceLength(asset: Asset, stream: number | null): number {
  return stream === null ? asset.length : (asset.sounds[stream]?.length ?? asset.length)
}
