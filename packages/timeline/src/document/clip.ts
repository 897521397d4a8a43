import { z } from 'zod'
import { fitSchema } from './reel'
import { gainSchema, idSchema, nameSchema, noteSchema, signedTicksSchema, ticksSchema } from './values'

/**
 * From clip time to source time. `steady` runs at the source's own speed: source time = `source` + clip time. It goes
 * on past the trims in both directions, which is what makes hidden footage reachable. `freeze` shows one moment for
 * as long as the clip lasts, in both directions.
 */
export const timeMapSchema = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('steady'), source: signedTicksSchema }),
  z.object({ kind: z.literal('freeze'), source: signedTicksSchema }),
])

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
 * What every clip has: a stretch of a track, from `start` for `length` ticks. Clip time at a reel position is
 * `head + position − start`: trimming the head or splitting changes `head`, so anything kept in clip time stays put.
 */
export const clipBaseSchema = z.object({
  id: idSchema,
  trackId: idSchema,
  /** Which sound stream of the source plays; `null` on picture tracks. A nested reel has one, its mix. */
  stream: z.int().min(0).max(63).nullable(),
  start: ticksSchema,
  length: ticksSchema.min(1),
  head: signedTicksSchema,
  map: timeMapSchema,
  /** Clips with the same link move, trim, split and leave together. */
  link: idSchema.nullable(),
  /**
   * Where this clip's source lies against its partners' when they are in sync, in ticks: the reel position of source
   * time zero, less `sync`, is then the same for all of a link. Zero for picture and sound of one file.
   */
  sync: signedTicksSchema,
  /** Clips with the same group are selected together and move together; their trims are their own. */
  group: idSchema.nullable(),
  name: nameSchema.nullable(),
  note: noteSchema,
  label: labelSchema.nullable(),
  gain: gainSchema,
  opacity: z.number().min(0).max(1),
  /** `null` follows the reel's own choice. */
  fit: fitSchema.nullable(),
  place: placeSchema,
})

/** A stretch of a source of the library. */
export const mediaClipSchema = clipBaseSchema.extend({ kind: z.literal('media'), assetId: idSchema })

/** A stretch of another reel of the project, played as one picture or one sound. */
export const reelClipSchema = clipBaseSchema.extend({ kind: z.literal('reel'), nestedId: idSchema })

export const clipSchema = z.discriminatedUnion('kind', [mediaClipSchema, reelClipSchema])

export type TimeMap = z.infer<typeof timeMapSchema>
export type Place = z.infer<typeof placeSchema>
export type Label = z.infer<typeof labelSchema>
export type ClipBase = z.infer<typeof clipBaseSchema>
export type MediaClip = z.infer<typeof mediaClipSchema>
export type ReelClip = z.infer<typeof reelClipSchema>
export type Clip = z.infer<typeof clipSchema>

/** What a clip has when nothing was changed yet. */
export const PLAIN_CLIP = {
  head: 0,
  link: null,
  sync: 0,
  group: null,
  name: null,
  note: '',
  label: null,
  gain: 0,
  opacity: 1,
  fit: null,
  place: { x: 0, y: 0, scale: 1, turn: 0 },
} as const satisfies Partial<ClipBase>
