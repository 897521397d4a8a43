import { z } from 'zod'
import { trackParamsSchema } from '../params/clipParams'
import { gainSchema, idSchema, nameSchema, orderSchema } from './values'

/** What a track is for; it colours its clips and later steers mixing. */
export const purposeSchema = z.enum(['picture', 'titles', 'voice', 'music', 'effects', 'ambience'])

/**
 * A lane of clips that never overlap. Picture tracks are ordered from back to front: the highest order key is in front.
 * Sound tracks are ordered from top to bottom of the desk.
 */
export const trackSchema = z.object({
  id: idSchema,
  reelId: idSchema,
  kind: z.enum(['picture', 'sound']),
  purpose: purposeSchema,
  name: nameSchema,
  order: orderSchema,
  /** Height on the desk in pixels. */
  height: z.int().min(24).max(240),
  hidden: z.boolean(),
  muted: z.boolean(),
  solo: z.boolean(),
  locked: z.boolean(),
  gain: gainSchema,
  /** Motion and opacity of everything on the track; keyframes are in reel time. */
  params: trackParamsSchema,
})

export type Purpose = z.infer<typeof purposeSchema>
export type Track = z.infer<typeof trackSchema>
