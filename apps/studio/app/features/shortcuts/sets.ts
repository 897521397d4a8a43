import { shortcutFileSchema, type Bindings, type ShortcutSets } from '~~/shared/shortcuts'
import { DEFAULT_KEYS, SHIPPED } from './defaults'

/** The keys in force: those of the active set, with the shipped ones for actions it says nothing of. */
export function bindingsOf({ active, sets }: ShortcutSets, shipped: Bindings = DEFAULT_KEYS): Bindings {
  return { ...shipped, ...(active === SHIPPED ? {} : sets[active]) }
}

/** Action by key. Where two share one, the first in the list has it. */
export function actionByKey(bindings: Bindings): Map<string, string> {
  const map = new Map<string, string>()
  for (const [action, keys] of Object.entries(bindings)) for (const key of keys) if (!map.has(key)) map.set(key, action)
  return map
}

/** Actions that want the same key, by key; keys wanted once are left out. */
export function conflicts(bindings: Bindings): Map<string, string[]> {
  const wanted = new Map<string, string[]>()
  for (const [action, keys] of Object.entries(bindings))
    for (const key of keys) wanted.set(key, [...(wanted.get(key) ?? []), action])
  return new Map([...wanted].filter(([, actions]) => actions.length > 1))
}

/** A set as the text of a file. */
export function exportSet(name: string, keys: Bindings): string {
  return JSON.stringify({ format: 'dusk-reel-shortcuts', version: 1, name, keys }, null, 2)
}

/**
 * Reads a file with a set.
 * @throws {Error} in words, naming the field, when it is not one
 */
export function importSet(text: string, known: readonly string[]): { name: string; keys: Bindings; unknown: string[] } {
  let data: unknown
  try {
    data = JSON.parse(text)
  } catch {
    throw new Error('This file is not JSON, so it holds no shortcuts.')
  }
  const parsed = shortcutFileSchema.safeParse(data)
  if (!parsed.success) {
    const [issue] = parsed.error.issues
    throw new Error(`This file holds no shortcuts: ${issue!.path.join('.') || 'the whole'} — ${issue!.message}.`)
  }
  const unknown = Object.keys(parsed.data.keys).filter((action) => !known.includes(action))
  const keys = Object.fromEntries(Object.entries(parsed.data.keys).filter(([action]) => known.includes(action)))
  return { name: parsed.data.name, keys, unknown }
}
