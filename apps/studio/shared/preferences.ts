import { z } from 'zod'
import { clipParamsSchema, looseParamsSchema, titleSchema } from '@dusk/timeline'

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

/** Settings of a sound effect that a person keeps under a name. */
export const ownSoundPresetSchema = z.object({
  id: z.uuid(),
  kind: z.string().max(40),
  name: z.string().trim().min(1).max(60),
  settings: looseParamsSchema,
})

/** How the person works with sound. */
export const soundPreferencesSchema = z.object({
  presets: z.record(z.string().max(40), ownSoundPresetSchema),
  /** Loudness in LUFS that clips are brought to. */
  target: z.number().min(-40).max(-5),
  /** How music gives way to a voice: decibels, and milliseconds of its slopes. */
  duck: z.object({
    amount: z.number().min(1).max(40),
    attack: z.number().min(10).max(3000),
    hold: z.number().min(0).max(5000),
    release: z.number().min(10).max(5000),
  }),
})

export type SoundPreferences = z.infer<typeof soundPreferencesSchema>

export const SOUND_DEFAULTS: SoundPreferences = {
  presets: {},
  target: -16,
  duck: { amount: 12, attack: 250, hold: 600, release: 900 },
}
