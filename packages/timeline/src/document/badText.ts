/** A text that can't be stored: PostgreSQL takes every character but U+0000, and surrogates only in pairs. */
export interface BadText {
  /** Where it is, its keys joined by dots; empty for the value itself. */
  path: string
  words: string
}

/** JSON in which such a text could be; most has none, and need not be walked through. */
const SUSPECT = /\\u(?:0000|d[89a-f])/i

/**
 * The first text, or name of a field, in a value that can't be stored.
 * @param json what the value was read from, if it was
 */
export function badText(value: unknown, json?: string): BadText | null {
  return json !== undefined && !SUSPECT.test(json) ? null : find(value, '')
}

function find(value: unknown, path: string): BadText | null {
  if (typeof value === 'string') return wrongIn(value, path)
  if (typeof value !== 'object' || value === null) return null
  for (const [key, inner] of Object.entries(value)) {
    const name = key.toWellFormed().replaceAll('\0', '')
    const here = path ? `${path}.${name}` : name
    const found = wrongIn(key, here) ?? find(inner, here)
    if (found) return found
  }
  return null
}

function wrongIn(text: string, path: string): BadText | null {
  if (text.includes('\0')) return { path, words: 'holds the character U+0000' }
  return text.isWellFormed() ? null : { path, words: 'holds half of a character (a lone surrogate)' }
}
