import { z } from 'zod'
import { labelSchema } from './clip'
import { idSchema, noteSchema, signedTicksSchema, ticksSchema } from './values'

/**
 * A point (`length` 0) or a range worth finding again. It lies on a reel, `at` counted in reel time, or on a clip, `at`
 * counted in clip time so that it stays on its picture through trims, splits and moves. Exactly one of the two is set.
 */
export const markerSchema = z.object({
  id: idSchema,
  reelId: idSchema.nullable(),
  clipId: idSchema.nullable(),
  at: signedTicksSchema,
  length: ticksSchema,
  name: z.string().trim().max(200),
  colour: labelSchema,
  note: noteSchema,
})

export type Marker = z.infer<typeof markerSchema>
