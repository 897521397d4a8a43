import { defineStore } from 'pinia'
import { computed, ref } from 'vue'
import type { Params } from '@dusk/timeline'
import { usePersonSetting } from '~/features/ui/usePersonSetting'
import { SOUND_DEFAULTS, type SoundPreferences } from '~~/shared/preferences'

/** The person's own presets and choices about sound. */
export const useSound = defineStore('sound', () => {
  const { value, load, change } = usePersonSetting<Partial<SoundPreferences>>('sound', SOUND_DEFAULTS)
  /** What was never set is as it ships. */
  const preferences = computed((): SoundPreferences => ({
    ...SOUND_DEFAULTS,
    ...value.value,
    targets: { ...SOUND_DEFAULTS.targets, ...value.value.targets },
    duck: { ...SOUND_DEFAULTS.duck, ...value.value.duck },
  }))
  /** Whether the heads of the tracks are widened to a mixer. */
  const mixing = ref(false)

  const set = (changed: Partial<Omit<SoundPreferences, 'presets' | 'duck' | 'targets'>>) =>
    change(...Object.entries(changed).map(([key, value]) => ({ path: [key], value })))
  const setDuck = (changed: Partial<SoundPreferences['duck']>) =>
    change(...Object.entries(changed).map(([key, value]) => ({ path: ['duck', key], value })))
  const keepPreset = (kind: string, name: string, settings: Params) => {
    const id = crypto.randomUUID()
    return change({ path: ['presets', id], value: { id, kind, name, settings } as never })
  }
  const setTarget = (purpose: keyof SoundPreferences['targets'], lufs: number) =>
    change({ path: ['targets', purpose], value: lufs })
  const renamePreset = (id: string, name: string) => change({ path: ['presets', id, 'name'], value: name })
  const dropPreset = (id: string) => change({ path: ['presets', id] })

  return { preferences, load, set, setDuck, setTarget, keepPreset, renamePreset, dropPreset, mixing }
})
