import { shallowRef, type ShallowRef } from 'vue'
import { api } from './api'
import { useNotices } from './noticesStore'
import { withChange, type SettingChange } from '~~/shared/settingChange'

export interface PersonSetting<T> {
  value: ShallowRef<T>
  /** Whether the server was asked what is kept, and has answered or is away. */
  known: ShallowRef<boolean>
  /** Reads what is kept; once, however often it is called. Rejects when the server does not answer. */
  load(): Promise<void>
  /**
   * Changes entries, here and on the server. What is kept is read before, so that nothing is written over unseen.
   * @returns whether they are kept; where they are not, the person was told why
   */
  change(...changes: SettingChange[]): Promise<boolean>
}

/** A setting of the person's, kept on the server so that every project has it. */
export function usePersonSetting<T>(key: string, initial: T): PersonSetting<T> {
  const value = shallowRef(initial) as ShallowRef<T>
  const known = shallowRef(false)
  let loading: Promise<void> | null = null
  let loaded = false

  function load(): Promise<void> {
    loading ??= api<{ value: T | null }>(`/settings/${key}`).then(
      ({ value: kept }) => {
        if (kept !== null) value.value = kept
        loaded = true
        known.value = true
      },
      (error) => {
        loading = null
        known.value = true
        throw error
      },
    )
    return loading
  }

  async function change(...changes: SettingChange[]): Promise<boolean> {
    const show = () =>
      (value.value = changes.reduce((held: unknown, entry) => withChange(held, entry), value.value) as T)
    try {
      if (loaded) show()
      else {
        await load()
        show()
      }
      const { value: kept } = await api<{ value: T }>(`/settings/${key}`, 'PATCH', { changes })
      value.value = kept
      return true
    } catch (error) {
      useNotices().warn(`This could not be kept: ${(error as Error).message}`)
      return false
    }
  }

  return { value, known, load: () => load().catch(() => {}), change }
}
