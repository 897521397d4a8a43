import type { H3Event } from 'h3'
import { z } from 'zod'
import {
  EFFECT_DEFAULTS,
  effectPreferencesSchema,
  keptFontSchema,
  ownTitleSchema,
  RECORDING_DEFAULTS,
  recordingPreferencesSchema,
  SOUND_DEFAULTS,
  soundPreferencesSchema,
  TRANSITION_DEFAULTS,
  transitionPreferencesSchema,
} from '../../shared/preferences'
import { ownPurposeSchema } from '@dusk/interchange'
import { shortcutSetsSchema } from '../../shared/shortcuts'

/** What can be kept for the person, by key: its shape, and what it is before anything was kept. */
export const settingKinds = {
  shortcuts: { schema: shortcutSetsSchema, initial: { active: 'Dusk', sets: {} } },
  transitions: { schema: transitionPreferencesSchema, initial: TRANSITION_DEFAULTS },
  sound: { schema: soundPreferencesSchema, initial: SOUND_DEFAULTS },
  effects: { schema: effectPreferencesSchema, initial: EFFECT_DEFAULTS },
  recording: { schema: recordingPreferencesSchema, initial: RECORDING_DEFAULTS },
  titles: { schema: z.array(ownTitleSchema).max(200), initial: [] },
  purposes: { schema: z.array(ownPurposeSchema).max(100), initial: [] },
  fonts: { schema: z.array(keptFontSchema).max(200), initial: [] },
  desk: {
    schema: z.object({ density: z.enum(['calm', 'full']), hints: z.array(z.string().max(60)).max(100) }),
    initial: { density: 'calm', hints: [] },
  },
} as const

export type SettingKey = keyof typeof settingKinds

/** The key in the path, or a refusal. */
export function settingKey(event: H3Event): SettingKey {
  const key = getRouterParam(event, 'key') ?? ''
  if (!Object.hasOwn(settingKinds, key)) throw notFound('setting')
  return key as SettingKey
}
