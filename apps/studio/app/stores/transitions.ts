import { defineStore } from 'pinia'
import { shallowRef } from 'vue'
import { api } from '~/lib/api'
import { TRANSITION_DEFAULTS, type TransitionPreferences } from '~~/shared/preferences'
import { useNotices } from './notices'

/** The person's standard transition and favourites. Kept on the server, so every project has them. */
export const useTransitions = defineStore('transitions', () => {
  const preferences = shallowRef<TransitionPreferences>(TRANSITION_DEFAULTS)
  let loaded = false

  async function load(): Promise<void> {
    if (loaded) return
    loaded = true
    const { value } = await api<{ value: TransitionPreferences | null }>('/settings/transitions').catch(() => ({
      value: null,
    }))
    if (value) preferences.value = value
  }

  function set(change: Partial<TransitionPreferences>): void {
    preferences.value = { ...preferences.value, ...change }
    api('/settings/transitions', 'PUT', { value: preferences.value }).catch((error: Error) =>
      useNotices().warn(error.message),
    )
  }

  function toggleFavourite(id: string): void {
    const { favourites } = preferences.value
    set({ favourites: favourites.includes(id) ? favourites.filter((other) => other !== id) : [...favourites, id] })
  }

  return { preferences, load, set, toggleFavourite }
})
