import { z } from 'zod'
import { fitSchema } from './reel'
import { gainSchema, idSchema, nameSchema, signedTicksSchema, ticksSchema } from './values'

/**
 * From clip time to source time. `steady` runs at the source's own speed: source time = `source` + clip time. It goes
 * on past the trims in both directions, which is what makes hidden footage reachable.
 */
export const timeMapSchema = z.object({ kind: z.literal('steady'), source: signedTicksSchema })

/** Where the fitted picture sits: offset from the centre in reel pixels, size as a factor, turn in degrees clockwise. */
export const placeSchema = z.object({
  x: z.number().min(-32_768).max(32_768),
  y: z.number().min(-32_768).max(32_768),
  scale: z.number().min(0.01).max(100),
  turn: z.number().min(-3600).max(3600),
})

/** The person's own colour labels. */
export const labelSchema = z.enum(['lamp', 'ember', 'rose', 'dusk', 'moss', 'plum'])

/**
 * A stretch of a source on a track, from `start` for `length` ticks. Clip time at a reel position is
 * `head + position − start`: trimming the head or splitting changes `head`, so anything kept in clip time stays put.
 */
export const clipSchema = z.object({
  id: idSchema,
  kind: z.literal('media'),
  trackId: idSchema,
  assetId: idSchema,
  /** Which sound stream of the asset plays; `null` on picture tracks. */
  stream: z.int().min(0).max(63).nullable(),
  start: ticksSchema,
  length: ticksSchema.min(1),
  head: signedTicksSchema,
  map: timeMapSchema,
  /** Clips with the same link move, trim, split and leave together. */
  link: idSchema.nullable(),
  name: nameSchema.nullable(),
  label: labelSchema.nullable(),
  gain: gainSchema,
  opacity: z.number().min(0).max(1),
  /** `null` follows the reel's own choice. */
  fit: fitSchema.nullable(),
  place: placeSchema,
})

export type TimeMap = z.infer<typeof timeMapSchema>
export type Place = z.infer<typeof placeSchema>
export type Label = z.infer<typeof labelSchema>
export type Clip = z.infer<typeof clipSchema>
