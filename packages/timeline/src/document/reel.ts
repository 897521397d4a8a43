import { z } from 'zod'
import { reelParamsSchema } from '../params/clipParams'
import { colourSchema, gainSchema, idSchema, nameSchema, orderSchema, rateSchema } from './values'

/** How a picture of another shape is placed in the reel: whole with bars, filling with its edges cut, or stretched. */
export const fitSchema = z.enum(['fit', 'fill', 'stretch'])

/** Shape and rate of a reel. Sizes are even so that every encoder takes them. */
export const formatSchema = z.object({
  width: z.int().min(16).max(8192).multipleOf(2),
  height: z.int().min(16).max(8192).multipleOf(2),
  rate: rateSchema,
})

export const backgroundFillSchema = z.enum(['none', 'blur', 'colour', 'pattern'])

/** A sequence of tracks that plays as one picture with one sound. */
export const reelSchema = z.object({
  id: idSchema,
  name: nameSchema,
  order: orderSchema,
  format: formatSchema,
  background: colourSchema,
  fit: fitSchema,
  /** What is drawn where fitted pictures leave the frame empty. */
  backgroundFill: backgroundFillSchema,
  /** Level of all that is heard. */
  gain: gainSchema,
  /** Settings of all that is heard; keyframes are in reel time. */
  params: reelParamsSchema,
})

export type Fit = z.infer<typeof fitSchema>
export type Format = z.infer<typeof formatSchema>
export type Reel = z.infer<typeof reelSchema>
