import { z } from 'zod'
import { easeSchema } from '../params/ease'
import { looseParamsSchema } from '../params/spec'
import { idSchema, signedTicksSchema } from './values'

/** Most shapes of a mask, points of an outline, and places of a brush stroke. */
export const MASK_LIMITS = { shapes: 20, points: 200, strokes: 200, places: 2000, keys: 500 } as const

const part = z.number().min(-1000).max(1000)

/**
 * A point of an outline and its two handles, all as parts of the picture in percent: x, y, then the way to the handle
 * before it and the way to the one after it. The outline lies about the shape's position.
 */
export const maskPointSchema = z.tuple([part, part, part, part, part, part])

/** An outline at a moment of the owner's time. */
export const maskPathKeySchema = z.object({
  at: signedTicksSchema,
  ease: easeSchema,
  points: z.array(maskPointSchema).min(2).max(MASK_LIMITS.points),
})

/** A stroke of a brush: places as parts of the picture in percent, its radius in percent of the picture's height. */
export const maskStrokeSchema = z.object({
  radius: z.number().min(0.05).max(100),
  /** Whether it takes away what was painted before. */
  erase: z.boolean(),
  places: z
    .array(z.tuple([part, part]))
    .min(1)
    .max(MASK_LIMITS.places),
})

/** How a shape comes to those before it: added, taken away, or only what both cover. */
export const maskModeSchema = z.enum(['add', 'subtract', 'intersect'])

/** One shape of a mask. */
export const maskShapeSchema = z.object({
  id: idSchema,
  kind: z.enum(['rectangle', 'ellipse', 'pen', 'straight', 'radial', 'brush']),
  mode: maskModeSchema,
  /** Place, size, feather and the rest, where they differ from their defaults; keyframes in the owner's time. */
  settings: looseParamsSchema,
  /** Of a pen: its outline, at one moment or at several in order of time. */
  path: z
    .array(maskPathKeySchema)
    .max(MASK_LIMITS.keys)
    .refine((keys) => keys.every((key, i) => i === 0 || keys[i - 1]!.at < key.at), 'keyframes must be in order of time')
    .optional(),
  /** Of a brush: what was painted, in order. */
  strokes: z.array(maskStrokeSchema).max(MASK_LIMITS.strokes).optional(),
})

/** Where an effect acts: shapes one over the other. */
export const maskSchema = z.object({ shapes: z.array(maskShapeSchema).min(1).max(MASK_LIMITS.shapes) })

export type Mask = z.infer<typeof maskSchema>
export type MaskShape = z.infer<typeof maskShapeSchema>
export type MaskPoint = z.infer<typeof maskPointSchema>
export type MaskPathKey = z.infer<typeof maskPathKeySchema>
export type MaskStroke = z.infer<typeof maskStrokeSchema>
