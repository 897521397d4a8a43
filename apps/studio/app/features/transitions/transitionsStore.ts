import { defineStore } from 'pinia'
import { ref } from 'vue'
import type { Transition } from '@dusk/timeline'
import { usePersonSetting } from '~/features/ui/usePersonSetting'
import { TRANSITION_DEFAULTS, type TransitionPreferences } from '~~/shared/preferences'

/** A transition that was copied, and whether it is one of sound. */
export type CopiedTransition = Pick<Transition, 'kind' | 'settings' | 'before' | 'after' | 'missing'> & {
  sound: boolean
}

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

  /** What was copied last, to be pasted on other cuts. */
  const copied = ref<CopiedTransition | null>(null)

  return { copied, preferences, load, set, toggleFavourite }
})
