import { readFile } from 'node:fs/promises'
import { create } from 'fontkit'

const LIMIT = 40 * 1024 ** 2

/** A font file as its bytes (TTF, OTF, WOFF or WOFF2): kept for titles to name by its hash, once it was read. */
export default defineApi((event) =>
  takeGivenFile(event, { what: 'A font file', ending: '.font', limit: LIMIT }, async (path) => {
    const none = new Problem(
      422,
      'Not a font',
      'This is no font that can be read: a TTF, OTF, WOFF or WOFF2 file is expected.',
    )
    const font = await readFile(path)
      .then((bytes) => create(bytes))
      .catch(() => null)
    if (!font) throw none
    if ('fonts' in font)
      throw new Problem(422, 'A collection of fonts', 'This file holds several fonts. Save the one you want by itself.')
    // What is read only when it is asked for may still be broken.
    try {
      if (font.numGlyphs < 1 || !font.glyphForCodePoint(0x61)) throw none
      const name = font.fullName || font.familyName || 'Own font'
      return { name: [...name.replace(/[\p{C}#]/gu, ' ').trim()].slice(0, 60).join('') || 'Own font' }
    } catch {
      throw none
    }
  }),
)
