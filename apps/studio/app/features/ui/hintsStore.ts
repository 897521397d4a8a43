import { defineStore } from 'pinia'
import { usePersonSetting } from './usePersonSetting'

interface DeskSettings {
  density: 'calm' | 'full'
  hints: string[]
}

/** Hints that the person has closed for good. */
export const useHints = defineStore('hints', () => {
  const {
    value: settings,
    known,
    load,
    change,
  } = usePersonSetting<DeskSettings>('desk', {
    density: 'calm',
    hints: [],
  })

  /** Not before it is known which were closed: a hint must not flash up. */
  const open = (id: string) => known.value && !settings.value.hints.includes(id)
  const close = (id: string) => change({ path: ['hints', id], value: id })

  return { load, open, close }
})
