import { z } from 'zod'
import { clipParamsSchema, titleSchema } from '@dusk/timeline'

/** How the person works with transitions: what the key puts in, how long, and which are kept at hand. */
export const transitionPreferencesSchema = z.object({
  standard: z.string().max(40),
  /** Seconds. */
  seconds: z.number().min(0.05).max(60),
  favourites: z.array(z.string().max(40)).max(200),
})

export type TransitionPreferences = z.infer<typeof transitionPreferencesSchema>

export const TRANSITION_DEFAULTS: TransitionPreferences = { standard: 'dissolve', seconds: 1, favourites: [] }

/** A title kept for later, as it was in a reel of some size. */
export const ownTitleSchema = z.object({
  id: z.uuid(),
  name: z.string().trim().min(1).max(60),
  title: titleSchema,
  params: clipParamsSchema,
  format: z.object({ width: z.int().min(16).max(8192), height: z.int().min(16).max(8192) }),
})

export type OwnTitle = z.infer<typeof ownTitleSchema>
