import { defineStore } from 'pinia'
import { computed, ref, shallowRef } from 'vue'
import type { Effect, Params } from '@dusk/timeline'
import { usePersonSetting } from '~/features/ui/usePersonSetting'
import { EFFECT_DEFAULTS, type EffectPreferences, type OwnLook } from '~~/shared/preferences'

/** How many of the effects used last are remembered. */
const LAST = 24

/** What is worked on with effects, and what the person keeps of them. */
export const useEffects = defineStore('effects', () => {
  const { value, load, change } = usePersonSetting<Partial<EffectPreferences>>('effects', EFFECT_DEFAULTS)
  const preferences = computed((): EffectPreferences => ({ ...EFFECT_DEFAULTS, ...value.value }))

  /** The effect whose settings are open: it has handles on the picture. */
  const openId = ref<string | null>(null)
  /** What the next click on the picture tells the colour of. */
  const pipette = shallowRef<{ words: string; use: (hex: string) => void; without: string | null } | null>(null)
  /** Part of the picture, from the left, shown without effects; `null`: all with them. */
  const bareTo = ref<number | null>(null)
  /** A stack that was copied. */
  const copied = shallowRef<Pick<Effect, 'kind' | 'settings' | 'strength' | 'mask' | 'domain'>[]>([])

  /** A tile of the gallery, by its effect and preset. */
  const tileName = (kind: string, preset: string) => `${kind}/${preset}`
  function used(name: string): void {
    const last = [name, ...preferences.value.last.filter((other) => other !== name)].slice(0, LAST)
    void change({ path: ['last'], value: last })
  }
  function toggleFavourite(name: string): void {
    const { favourites } = preferences.value
    const next = favourites.includes(name) ? favourites.filter((other) => other !== name) : [...favourites, name]
    void change({ path: ['favourites'], value: next.slice(0, 300) })
  }
  function keepLook(name: string, effects: OwnLook['effects']): Promise<boolean> {
    const id = crypto.randomUUID()
    return change({ path: ['looks', id], value: { id, name, effects } as never })
  }
  const renameLook = (id: string, name: string) => change({ path: ['looks', id, 'name'], value: name })
  const dropLook = (id: string) => change({ path: ['looks', id] })

  return {
    ...{ preferences, load, openId, pipette, bareTo, copied },
    ...{ tileName, used, toggleFavourite, keepLook, renameLook, dropLook },
  }
})

/** Effects as they are added: without ids and owners. */
export const bareEffects = (effects: readonly Effect[]) =>
  effects.map(({ domain, kind, settings, strength, mask }) => ({
    ...{ domain, kind, settings: settings as Params, strength },
    ...(mask ? { mask } : {}),
  }))
