import { defineStore } from 'pinia'
import { computed, ref, shallowRef } from 'vue'
import { usePersonSetting } from '~/features/ui/usePersonSetting'
import { DEFAULT_KEYS, SHIPPED } from './defaults'
import { actionByKey, bindingsOf } from './sets'
import type { Bindings, ShortcutSets } from '~~/shared/shortcuts'

/** The person's shortcuts: named sets, one of them in force. Kept on the server, so every project has them. */
export const useShortcuts = defineStore('shortcuts', () => {
  const { value: stored, load, change } = usePersonSetting<ShortcutSets>('shortcuts', { active: SHIPPED, sets: {} })
  /** The shipped set: the desk's own keys and those that features bring along. */
  const shipped = shallowRef<Bindings>(DEFAULT_KEYS)
  const bindings = computed(() => bindingsOf(stored.value, shipped.value))
  const byKey = computed(() => actionByKey(bindings.value))
  const names = computed(() => [SHIPPED, ...Object.keys(stored.value.sets)])

  /** Adds keys of a feature to the shipped set. */
  function ship(keys: Bindings): void {
    shipped.value = { ...shipped.value, ...keys }
  }

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

  /** Whether the sheet of shortcuts is open. */
  const sheetOpen = ref(false)
  /** The first key of an action, for hints; empty when it has none. */
  const keyOf = (action: string) => bindings.value[action]?.[0] ?? ''
  const isDefault = (action: string) => bindings.value[action]?.join() === shipped.value[action]?.join()

  return {
    ship,
    shipped,
    sheetOpen,
    stored,
    bindings,
    byKey,
    names,
    load,
    choose,
    bind,
    add,
    remove,
    rename,
    keyOf,
    isDefault,
  }
})
