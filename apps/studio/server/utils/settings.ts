import type { H3Event } from 'h3'
import { z } from 'zod'
import { ownTitleSchema, transitionPreferencesSchema } from '../../shared/preferences'
import { shortcutSetsSchema } from '../../shared/shortcuts'

/** What can be kept for the person, by key, as the body of a request. */
export const settingSchemas = {
  shortcuts: z.object({ value: shortcutSetsSchema }),
  transitions: z.object({ value: transitionPreferencesSchema }),
  titles: z.object({ value: z.array(ownTitleSchema).max(200) }),
  desk: z.object({
    value: z.object({ density: z.enum(['calm', 'full']), hints: z.array(z.string().max(60)).max(100) }),
  }),
} as const

export type SettingKey = keyof typeof settingSchemas

/** The key in the path, or a refusal. */
export function settingKey(event: H3Event): SettingKey {
  const key = getRouterParam(event, 'key') ?? ''
  if (!(key in settingSchemas)) throw notFound('setting')
  return key as SettingKey
}
