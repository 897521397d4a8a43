import { fontFiles, FONTS } from '@dusk/compositor'
import { ownFontValue } from '@dusk/timeline'
import type { KeptFont } from '~~/shared/preferences'
import type { Choice } from '~/features/ui/choice'
import { FONT_URLS } from '~/features/player/fontUrls'

/** The name that a font of titles has in the page: those of the desk itself stay as they are. */
const faceOf = (family: string) => `title ${family}`

/** The fonts of titles, each written in itself once {@link showFonts} was called. */
export const FONT_CHOICES: readonly Choice<string>[] = FONTS.map(({ family }) => ({
  value: family,
  label: family,
  style: { fontFamily: `"${faceOf(family)}"` },
}))

/** Fonts of the person's own, as they are chosen. */
export const ownFontChoices = (fonts: readonly KeptFont[]): Choice<string>[] =>
  fonts.map(({ id, name }) => ({
    value: ownFontValue({ name, hash: id }),
    label: name,
    style: { fontFamily: `"${faceOf(id)}"` },
  }))

const asked = new Set<string>()
function show(name: string, address: string | undefined, weight: string): void {
  if (!address || asked.has(name)) return
  asked.add(name)
  const face = new FontFace(faceOf(name), `url(${address})`, { weight, display: 'swap' })
  document.fonts.add(face)
  // One that can't be read is written in the desk's own font.
  face.load().catch(() => document.fonts.delete(face))
}

/** Reads the fonts of titles, and those of the person's own, into the page; each when a list first shows it. */
export function showFonts(own: readonly KeptFont[]): void {
  for (const { family, weights } of FONTS) show(family, FONT_URLS.get(fontFiles(family)[0]!.path), weights.join(' '))
  for (const { id } of own) show(id, `/api/fonts/${id}`, '100 900')
}
