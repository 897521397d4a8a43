import { ownFont } from '@dusk/timeline'
import { ownFontFile } from './ownFonts'

/** A font that ships with Dusk Reel, all under the SIL Open Font License 1.1. Weights are continuous. */
export interface ShippedFont {
  family: string
  /** Package under @fontsource-variable, and the beginning of its files' names. */
  slug: string
  /** What it is good for, in a word. */
  character: 'plain' | 'serif' | 'display' | 'hand' | 'mono'
  weights: readonly [number, number]
  italic?: boolean
}

/** Fonts offered for titles, each with Latin letters of all European languages. */
export const FONTS: readonly ShippedFont[] = [
  { family: 'Hanken Grotesk', slug: 'hanken-grotesk', character: 'plain', weights: [100, 900], italic: true },
  { family: 'Manrope', slug: 'manrope', character: 'plain', weights: [200, 800] },
  { family: 'Outfit', slug: 'outfit', character: 'plain', weights: [100, 900] },
  { family: 'Rubik', slug: 'rubik', character: 'plain', weights: [300, 900], italic: true },
  { family: 'Raleway', slug: 'raleway', character: 'plain', weights: [100, 900], italic: true },
  { family: 'Montserrat', slug: 'montserrat', character: 'plain', weights: [100, 900], italic: true },
  { family: 'Josefin Sans', slug: 'josefin-sans', character: 'plain', weights: [100, 700], italic: true },
  { family: 'Quicksand', slug: 'quicksand', character: 'plain', weights: [300, 700] },
  { family: 'Nunito', slug: 'nunito', character: 'plain', weights: [200, 900], italic: true },
  { family: 'Archivo', slug: 'archivo', character: 'plain', weights: [100, 900], italic: true },
  { family: 'Space Grotesk', slug: 'space-grotesk', character: 'plain', weights: [300, 700] },
  { family: 'Exo 2', slug: 'exo-2', character: 'plain', weights: [100, 900], italic: true },
  { family: 'Oswald', slug: 'oswald', character: 'display', weights: [200, 700] },
  { family: 'Yanone Kaffeesatz', slug: 'yanone-kaffeesatz', character: 'display', weights: [200, 700] },
  { family: 'Bricolage Grotesque', slug: 'bricolage-grotesque', character: 'display', weights: [200, 800] },
  { family: 'Big Shoulders Display', slug: 'big-shoulders-display', character: 'display', weights: [100, 900] },
  { family: 'Syne', slug: 'syne', character: 'display', weights: [400, 800] },
  { family: 'Unbounded', slug: 'unbounded', character: 'display', weights: [200, 900] },
  { family: 'Comfortaa', slug: 'comfortaa', character: 'display', weights: [300, 700] },
  { family: 'Cinzel', slug: 'cinzel', character: 'display', weights: [400, 900] },
  { family: 'Pixelify Sans', slug: 'pixelify-sans', character: 'display', weights: [400, 700] },
  { family: 'Playfair Display', slug: 'playfair-display', character: 'serif', weights: [400, 900], italic: true },
  { family: 'Fraunces', slug: 'fraunces', character: 'serif', weights: [100, 900], italic: true },
  { family: 'Lora', slug: 'lora', character: 'serif', weights: [400, 700], italic: true },
  { family: 'EB Garamond', slug: 'eb-garamond', character: 'serif', weights: [400, 800], italic: true },
  { family: 'Alegreya', slug: 'alegreya', character: 'serif', weights: [400, 900], italic: true },
  { family: 'Bitter', slug: 'bitter', character: 'serif', weights: [100, 900], italic: true },
  { family: 'Literata', slug: 'literata', character: 'serif', weights: [200, 900], italic: true },
  { family: 'Caveat', slug: 'caveat', character: 'hand', weights: [400, 700] },
  { family: 'Dancing Script', slug: 'dancing-script', character: 'hand', weights: [400, 700] },
  { family: 'Grandstander', slug: 'grandstander', character: 'hand', weights: [100, 900], italic: true },
  { family: 'Sansita Swashed', slug: 'sansita-swashed', character: 'hand', weights: [300, 900] },
  { family: 'Martian Mono', slug: 'martian-mono', character: 'mono', weights: [100, 800] },
]

/** A file of a font, by its path under node_modules, or one of the person's own by its hash. */
export interface FontFile {
  name: string
  path: string
}

const file = (slug: string, subset: string, style = 'normal') =>
  `@fontsource-variable/${slug}/files/${slug}-${subset}-wght-${style}.woff2`

/** Files of an offered font or of one of the person's own; unknown names give those of the first. */
export function fontFiles(family: string): FontFile[] {
  const own = ownFont(family)
  if (own) return [ownFontFile(own)]
  const font = FONTS.find((entry) => entry.family === family) ?? FONTS[0]!
  const files = [
    { name: font.family, path: file(font.slug, 'latin') },
    { name: `${font.family} ext`, path: file(font.slug, 'latin-ext') },
  ]
  if (font.italic) files.push({ name: font.family, path: file(font.slug, 'latin', 'italic') })
  return files
}

/** Scripts that the offered fonts do not hold, and what is taken for them. */
const SCRIPTS: { letters: RegExp; file: FontFile }[] = [
  { letters: /\p{Script=Cyrillic}/u, file: { name: 'Noto Cyrillic', path: file('noto-sans', 'cyrillic') } },
  { letters: /\p{Script=Greek}/u, file: { name: 'Noto Greek', path: file('noto-sans', 'greek') } },
  { letters: /[\u1ea0-\u1ef9\u01a0\u01af]/u, file: { name: 'Noto Vietnamese', path: file('noto-sans', 'vietnamese') } },
  { letters: /\p{Script=Arabic}/u, file: { name: 'Noto Arabic', path: file('noto-sans-arabic', 'arabic') } },
  { letters: /\p{Script=Hebrew}/u, file: { name: 'Noto Hebrew', path: file('noto-sans-hebrew', 'hebrew') } },
  {
    letters: /\p{Script=Devanagari}/u,
    file: { name: 'Noto Devanagari', path: file('noto-sans-devanagari', 'devanagari') },
  },
  { letters: /\p{Script=Thai}/u, file: { name: 'Noto Thai', path: file('noto-sans-thai', 'thai') } },
]

/** Colour emoji (5.8 MB, so it is fetched only when there are any). */
export const EMOJI: FontFile = {
  name: 'Noto Color Emoji',
  path: '@fontsource/noto-color-emoji/files/noto-color-emoji-emoji-400-normal.woff2',
}

/** Files that a text needs besides those of its own fonts. */
export function fallbackFiles(text: string): FontFile[] {
  const files = SCRIPTS.filter((script) => script.letters.test(text)).map((script) => script.file)
  if (/\p{Extended_Pictographic}|\p{Regional_Indicator}/u.test(text)) files.push(EMOJI)
  return files
}

/**
 * Reads a file by its path; `null` for one of the person's own that is not there, where the rest is shown without.
 * @throws when it can't be read
 */
export type FontReader = (path: string) => Promise<Uint8Array | null>
