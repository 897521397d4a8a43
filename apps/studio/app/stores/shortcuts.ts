import { defineStore } from 'pinia'
import { computed, shallowRef } from 'vue'
import { api } from '~/lib/api'
import { DEFAULT_KEYS, SHIPPED } from '~/lib/shortcuts/defaults'
import { actionByKey, bindingsOf } from '~/lib/shortcuts/sets'
import { useNotices } from './notices'
import type { ShortcutSets } from '~~/shared/shortcuts'

/** The person's shortcuts: named sets, one of them in force. Kept on the server, so every project has them. */
export const useShortcuts = defineStore('shortcuts', () => {
  const stored = shallowRef<ShortcutSets>({ active: SHIPPED, sets: {} })
  const bindings = computed(() => bindingsOf(stored.value))
  const byKey = computed(() => actionByKey(bindings.value))
  const names = computed(() => [SHIPPED, ...Object.keys(stored.value.sets)])

  async function load(): Promise<void> {
    const { value } = await api<{ value: ShortcutSets | null }>('/settings/shortcuts').catch(() => ({ value: null }))
    if (value) stored.value = value
  }

  async function keep(next: ShortcutSets): Promise<void> {
    stored.value = next
    await api('/settings/shortcuts', 'PUT', { value: next }).catch((error: Error) => useNotices().warn(error.message))
  }

  /** Puts a set in force. */
  const choose = (name: string) => keep({ ...stored.value, active: name })

  /** Gives an action its keys. The shipped set is never changed: a first change makes a set of the person's own. */
  function bind(action: string, keys: string[]): void {
    const { active, sets } = stored.value
    const name = active === SHIPPED ? freeName('Mine') : active
    void keep({ active: name, sets: { ...sets, [name]: { ...(sets[active] ?? {}), [action]: keys } } })
  }

  function freeName(wish: string): string {
    let name = wish
    for (let n = 2; names.value.includes(name); n++) name = `${wish} ${n}`
    return name
  }

  /** Adds a set and puts it in force. */
  function add(wish: string, keys: ShortcutSets['sets'][string]): void {
    const name = freeName(wish.slice(0, 50))
    void keep({ active: name, sets: { ...stored.value.sets, [name]: keys } })
  }

  function remove(name: string): void {
    const { [name]: _, ...sets } = stored.value.sets
    void keep({ active: SHIPPED, sets })
  }

  function rename(from: string, to: string): void {
    const name = to.trim().slice(0, 60)
    if (!name || names.value.includes(name)) return
    const { [from]: keys, ...sets } = stored.value.sets
    if (keys) void keep({ active: name, sets: { ...sets, [name]: keys } })
  }

  /** The first key of an action, for hints; empty when it has none. */
  const keyOf = (action: string) => bindings.value[action]?.[0] ?? ''
  const isDefault = (action: string) => bindings.value[action]?.join() === DEFAULT_KEYS[action]?.join()

  return { stored, bindings, byKey, names, load, choose, bind, add, remove, rename, keyOf, isDefault }
})
