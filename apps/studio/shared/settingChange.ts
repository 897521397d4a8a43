import { z } from 'zod'

/** One entry of a setting that gets another value, or goes when there is none. */
export const settingChangeSchema = z.object({
  /** From the outside in: keys of objects, ids of entries in lists, or in lists of words the word itself. */
  path: z.array(z.string().min(1).max(100)).min(1).max(4),
  value: z.json().optional(),
})
export type SettingChange = z.infer<typeof settingChangeSchema>

const idOf = (entry: unknown) =>
  typeof entry === 'object' && entry !== null ? (entry as { id?: string }).id : (entry as string)

/** A setting with one entry changed; what is not on the path stays as it is, whoever wrote it. */
export function withChange(holder: unknown, { path, value }: SettingChange): unknown {
  const [key, ...rest] = path as [string, ...string[]]
  if (Array.isArray(holder)) {
    const at = holder.findIndex((entry) => idOf(entry) === key)
    const next = rest.length > 0 ? withChange(holder[at], { path: rest, value }) : value
    if (next === undefined) return holder.filter((_, i) => i !== at)
    return at < 0 ? [...holder, next] : holder.map((entry, i) => (i === at ? next : entry))
  }
  const object = (typeof holder === 'object' && holder !== null ? holder : {}) as Record<string, unknown>
  const own = Object.hasOwn(object, key) ? object[key] : undefined
  const next = rest.length > 0 ? withChange(own, { path: rest, value }) : value
  const result: Record<string, unknown> = Object.fromEntries(Object.entries(object).filter(([name]) => name !== key))
  if (next !== undefined)
    Object.defineProperty(result, key, { value: next, enumerable: true, configurable: true, writable: true })
  return result
}
