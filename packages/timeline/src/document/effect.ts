import { z } from 'zod'
import { looseParamsSchema } from '../params/spec'
import { idSchema, orderSchema } from './values'

/** What an effect acts on: one clip, all of a track, or the whole reel. */
export const effectOwnerSchema = z.enum(['clip', 'track', 'reel'])

/** One effect in the stack of a clip, a track or a reel; the lowest order key comes first. */
export const effectSchema = z.object({
  id: idSchema,
  owner: effectOwnerSchema,
  /** Id of the clip, track or reel. */
  ownerId: idSchema,
  order: orderSchema,
  /** Whether it acts on what is seen or on what is heard. */
  domain: z.enum(['picture', 'sound']),
  /** Name in the list of effects. */
  kind: z.string().regex(/^[a-z][A-Za-z0-9]{0,39}$/, 'expected the name of an effect'),
  on: z.boolean(),
  /** How much of it is mixed with what came in, in percent. */
  strength: z.number().min(0).max(100),
  /** Settings that differ from the effect's defaults. Keyframes are in clip time, of tracks and reels in reel time. */
  settings: looseParamsSchema,
})

export type Effect = z.infer<typeof effectSchema>
export type EffectOwner = z.infer<typeof effectOwnerSchema>
