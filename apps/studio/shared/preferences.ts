import { z } from 'zod'
import { clipParamsSchema, effectSchema, looseParamsSchema, titleSchema } from '@dusk/timeline'

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

/** A font file of the person's own; its id is the hash of the file. */
export const keptFontSchema = z.object({
  id: z.string().regex(/^[0-9a-f]{64}$/, 'expected the hash of a file'),
  name: z.string().trim().min(1).max(60),
})
export type KeptFont = z.infer<typeof keptFontSchema>

/** Settings of a sound effect that a person keeps under a name. */
export const ownSoundPresetSchema = z.object({
  id: z.uuid(),
  kind: z.string().max(40),
  name: z.string().trim().min(1).max(60),
  settings: looseParamsSchema,
})

const lufs = z.number().min(-40).max(-5)

/** How the person works with sound. */
export const soundPreferencesSchema = z.object({
  presets: z.record(z.string().max(40), ownSoundPresetSchema),
  /** Loudness in LUFS that clips are brought to, by what their track is for. */
  targets: z
    .object({ voice: lufs, music: lufs, effects: lufs, ambience: lufs })
    .default({ voice: -16, music: -20, effects: -20, ambience: -30 }),
  /** What a sound is saved as. */
  file: z.enum(['wav', 'flac', 'mp3']).default('wav'),
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
  targets: { voice: -16, music: -20, effects: -20, ambience: -30 },
  file: 'wav',
  duck: { amount: 12, attack: 250, hold: 600, release: 900 },
}

/** Effects kept together under a name, with their masks. */
export const ownLookSchema = z.object({
  id: z.uuid(),
  name: z.string().trim().min(1).max(60),
  effects: z
    .array(effectSchema.pick({ domain: true, kind: true, settings: true, strength: true, mask: true }))
    .min(1)
    .max(40),
})
export type OwnLook = z.infer<typeof ownLookSchema>

/** How the person works with picture effects. Names are those of tiles: an effect and one of its presets. */
export const effectPreferencesSchema = z.object({
  favourites: z.array(z.string().max(90)).max(300),
  last: z.array(z.string().max(90)).max(60),
  looks: z.record(z.string().max(40), ownLookSchema),
})
export type EffectPreferences = z.infer<typeof effectPreferencesSchema>

export const EFFECT_DEFAULTS: EffectPreferences = { favourites: [], last: [], looks: {} }

/** How the person records. */
export const recordingPreferencesSchema = z.object({
  /** Microphone that was chosen last; `null`: the browser's own choice. */
  deviceId: z.string().max(200).nullable(),
  /** Seconds that are counted before it records. */
  countIn: z.number().min(0).max(10),
  /** Whether the reel is heard meanwhile, as in headphones. */
  heard: z.boolean(),
  /** Measured samples by which each microphone, by its id, comes late. */
  delays: z.record(z.string().max(200), z.number().min(0).max(48_000)),
})

export type RecordingPreferences = z.infer<typeof recordingPreferencesSchema>

export const RECORDING_DEFAULTS: RecordingPreferences = { deviceId: null, countIn: 3, heard: true, delays: {} }
