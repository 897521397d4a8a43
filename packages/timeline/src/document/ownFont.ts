/** A font file of the person's own, kept by its hash. */
export interface OwnFont {
  name: string
  /** SHA-256 of the file. */
  hash: string
}

/** How a title names such a font: what it is called, and which file it is. */
export const ownFontValue = ({ name, hash }: OwnFont) => `${name}#${hash}`

/** The file that a title's font names, or `null` for a font that ships. */
export function ownFont(value: string): OwnFont | null {
  const found = /^(.*)#([0-9a-f]{64})$/s.exec(value)
  return found ? { name: found[1]!, hash: found[2]! } : null
}
