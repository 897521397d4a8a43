import { z } from 'zod'

/** How the person works with transitions: what the key puts in, how long, and which are kept at hand. */
export const transitionPreferencesSchema = z.object({
  standard: z.string().max(40),
  /** Seconds. */
  seconds: z.number().min(0.05).max(60),
  favourites: z.array(z.string().max(40)).max(200),
})

export type TransitionPreferences = z.infer<typeof transitionPreferencesSchema>

export const TRANSITION_DEFAULTS: TransitionPreferences = { standard: 'dissolve', seconds: 1, favourites: [] }
