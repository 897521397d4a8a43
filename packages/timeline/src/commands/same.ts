/** Whether two pieces of plain JSON data are equal, the order of keys aside. */
export function sameData(a: unknown, b: unknown): boolean {
  if (a === b) return true
  if (typeof a !== 'object' || typeof b !== 'object' || a === null || b === null) return false
  if (Array.isArray(a) !== Array.isArray(b)) return false
  const keys = Object.keys(a)
  if (keys.length !== Object.keys(b).length) return false
  return keys.every((key) => sameData((a as Record<string, unknown>)[key], (b as Record<string, unknown>)[key]))
}
