import { generateKeyBetween } from 'fractional-indexing'

/** Compares two order keys. Plain string order, the same on every machine; never locale order. */
export function compareOrder(a: { order: string; id: string }, b: { order: string; id: string }): number {
  if (a.order !== b.order) return a.order < b.order ? -1 : 1
  return a.id < b.id ? -1 : a.id > b.id ? 1 : 0
}

/**
 * An order key that sorts between two others.
 * @param before key of the sibling before, or `null` at the beginning
 * @param after key of the sibling after, or `null` at the end
 */
export function orderBetween(before: string | null, after: string | null): string {
  return generateKeyBetween(before, after)
}
