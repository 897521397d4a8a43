import { defineStore } from 'pinia'
import { shallowRef } from 'vue'
import { api } from '~/lib/api'

interface DeskSettings {
  density: 'calm' | 'full'
  hints: string[]
}

/** Hints that the person has closed for good. */
export const useHints = defineStore('hints', () => {
  const settings = shallowRef<DeskSettings | null>(null)
  let loading: Promise<void> | null = null

  function load(): Promise<void> {
    loading ??= api<{ value: DeskSettings | null }>('/settings/desk')
      .catch(() => ({ value: null }))
      .then(({ value }) => void (settings.value = value ?? { density: 'calm', hints: [] }))
    return loading
  }

  /** Not before it is known which were closed: a hint must not flash up. */
  const open = (id: string) => settings.value !== null && !settings.value.hints.includes(id)

  function close(id: string): void {
    if (!settings.value) return
    settings.value = { ...settings.value, hints: [...settings.value.hints, id] }
    void api('/settings/desk', 'PUT', { value: settings.value }).catch(() => {})
  }

  return { load, open, close }
})
