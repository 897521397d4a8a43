import { defineStore } from 'pinia'
import { computed } from 'vue'
import { usePersonSetting } from '~/composables/usePersonSetting'
import { DEFAULT_KEYS, SHIPPED } from '~/lib/shortcuts/defaults'
import { actionByKey, bindingsOf } from '~/lib/shortcuts/sets'
import type { ShortcutSets } from '~~/shared/shortcuts'

/** The person's shortcuts: named sets, one of them in force. Kept on the server, so every project has them. */
export const useShortcuts = defineStore('shortcuts', () => {
  const { value: stored, load, change } = usePersonSetting<ShortcutSets>('shortcuts', { active: SHIPPED, sets: {} })
  const bindings = computed(() => bindingsOf(stored.value))
  const byKey = computed(() => actionByKey(bindings.value))
  const names = computed(() => [SHIPPED, ...Object.keys(stored.value.sets)])

  /** Puts a set in force. */
  const choose = (name: string) => change({ path: ['active'], value: name })

  /** Gives an action its keys. The shipped set is never changed: a first change makes a set of the person's own. */
  function bind(action: string, keys: string[]): void {
    const { active, sets } = stored.value
    if (active !== SHIPPED && sets[active]) return void change({ path: ['sets', active, action], value: keys })
    const name = freeName('Mine')
    void change({ path: ['sets', name], value: { [action]: keys } }, { path: ['active'], value: name })
  }

  function freeName(wish: string): string {
    let name = wish
    for (let n = 2; names.value.includes(name); n++) name = `${wish} ${n}`
    return name
  }

  /** Adds a set and puts it in force. */
  function add(wish: string, keys: ShortcutSets['sets'][string]): void {
    const name = freeName(wish.slice(0, 50))
    void change({ path: ['sets', name], value: keys }, { path: ['active'], value: name })
  }

  function remove(name: string): void {
    void change({ path: ['sets', name] }, { path: ['active'], value: SHIPPED })
  }

  function rename(from: string, to: string): void {
    const name = to.trim().slice(0, 60)
    if (!name || names.value.includes(name)) return
    const keys = stored.value.sets[from]
    if (!keys) return
    void change({ path: ['sets', from] }, { path: ['sets', name], value: keys }, { path: ['active'], value: name })
  }

  /** The first key of an action, for hints; empty when it has none. */
  const keyOf = (action: string) => bindings.value[action]?.[0] ?? ''
  const isDefault = (action: string) => bindings.value[action]?.join() === DEFAULT_KEYS[action]?.join()

  return { stored, bindings, byKey, names, load, choose, bind, add, remove, rename, keyOf, isDefault }
})
