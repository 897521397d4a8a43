/** Scripts that are written from the right to the left. */
const FROM_RIGHT =
  /[\p{Script=Hebrew}\p{Script=Arabic}\p{Script=Syriac}\p{Script=Thaana}\p{Script=Nko}\p{Script=Samaritan}\p{Script=Mandaic}\p{Script=Adlam}]/u

/**
 * Whether a text reads from the right to the left: by its first letter that has a direction of its own (rules P2 and P3
 * of the Unicode Bidirectional Algorithm, UAX #9), or as was chosen.
 * @param chosen `auto`, `leftToRight` or `rightToLeft`
 */
export function readsFromRight(text: string, chosen: unknown): boolean {
  if (chosen === 'rightToLeft') return true
  if (chosen === 'leftToRight') return false
  const first = /\p{L}/u.exec(text)?.[0]
  return first !== undefined && FROM_RIGHT.test(first)
}
