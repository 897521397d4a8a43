import { defineStore } from 'pinia'
import { usePersonSetting } from '~/features/ui/usePersonSetting'
import { TRANSITION_DEFAULTS, type TransitionPreferences } from '~~/shared/preferences'

/** The person's standard transition and favourites. */
export const useTransitions = defineStore('transitions', () => {
  const {
    value: preferences,
    load,
    change,
  } = usePersonSetting<TransitionPreferences>('transitions', TRANSITION_DEFAULTS)

  const set = (changed: Partial<TransitionPreferences>) =>
    change(...Object.entries(changed).map(([key, value]) => ({ path: [key], value })))

  function toggleFavourite(id: string): Promise<boolean> {
    const there = preferences.value.favourites.includes(id)
    return change({ path: ['favourites', id], ...(there ? {} : { value: id }) })
  }

  return { preferences, load, set, toggleFavourite }
})
