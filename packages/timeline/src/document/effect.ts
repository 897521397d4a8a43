import { z } from 'zod'
import { looseParamsSchema } from '../params/spec'
import { maskSchema } from './mask'
import { idSchema, orderSchema } from './values'

/** What an effect acts on: one clip, all of a track, the whole reel, or every piece of a source in all reels. */
export const effectOwnerSchema = z.enum(['clip', 'track', 'reel', 'asset'])

/** One effect in the stack of a clip, a track, a reel or a source; the lowest order key comes first. */
export const effectSchema = z.object({
  id: idSchema,
  owner: effectOwnerSchema,
  /** Id of the clip, track, reel or source. */
  ownerId: idSchema,
  order: orderSchema,
  /** Whether it acts on what is seen or on what is heard. */
  domain: z.enum(['picture', 'sound']),
  /** Name in the list of effects. */
  kind: z.string().regex(/^[a-z][A-Za-z0-9]{0,39}$/, 'expected the name of an effect'),
  on: z.boolean(),
  /** How much of it is mixed with what came in, in percent. */
  strength: z.number().min(0).max(100),
  /** Settings that differ from the effect's defaults. Keyframes are in clip time, of tracks and reels in reel time, of
   * sources in source time. */
  settings: looseParamsSchema,
  /** Where it acts; absent, everywhere. */
  mask: maskSchema.optional(),
})

/** Hashes of the files that effects name, such as tables of colours. */
export function filesNamed(effects: Record<string, Effect>): Set<string> {
  const hashes = Object.values(effects).flatMap(({ settings: { file } }) =>
    typeof file === 'string' && /^[0-9a-f]{64}$/.test(file) ? [file] : [],
  )
  return new Set(hashes)
}

export type Effect = z.infer<typeof effectSchema>
export type EffectOwner = z.infer<typeof effectOwnerSchema>
