import { ownFont, titleLayer, type TitleClip } from '@dusk/timeline'
import type { TitleMeasure } from '@dusk/compositor'
import type { Player } from '~/features/player/player'

/** Something about a title that will not look as it was meant. */
export interface TitleFault {
  words: string
  /** Size of the letters at which it would be mended, in pixels. */
  size?: number
}

const list = (letters: string[]) => letters.map((letter) => `“${letter}”`).join(', ')

/** What is wrong with a title, from how it was set. */
export function faultsOf(measure: TitleMeasure, size: number): TitleFault[] {
  const faults: TitleFault[] = []
  const { missing, room, widestWord } = measure
  if (missing.length > 0) {
    const letters = [...new Set(missing.map(({ letter }) => letter))]
    const places = missing.slice(0, 5).map(({ at }) => at + 1)
    const more = missing.length > places.length ? ' and more' : ''
    faults.push({
      words:
        `No font here has ${list(letters.slice(0, 8))} (letter ${places.join(', ')}${more}): ` +
        'an empty box is drawn.',
    })
  }
  // A hair too wide is not broken.
  if (widestWord > room + 1)
    faults.push({
      words: 'A word is wider than its line and is broken within.',
      size: Math.max(1, Math.floor((size * room) / widestWord)),
    })
  return faults
}

/** Whether a font file of the person's own is not there any more. */
export async function fontIsLost(font: string): Promise<boolean> {
  const own = ownFont(font)
  if (!own) return false
  const answer = await fetch(`/api/fonts/${own.hash}`, { headers: { range: 'bytes=0-0' } }).catch(() => null)
  return answer?.status === 404
}

/** Measures a title as it stands when all of it is shown, and says what is wrong with it. */
export async function titleFaults(
  player: Player,
  clip: TitleClip,
  format: { width: number; height: number },
): Promise<TitleFault[]> {
  if (!clip.title.text.trim()) return []
  const layer = { ...titleLayer(clip, clip.start, format), travel: 0.5 }
  const { measure } = await player.titleLayout({ layer })
  const faults = faultsOf(measure, layer.style.size as number)
  const fonts = new Set([layer.style.font, ...clip.title.runs.map((run) => run.style.font)])
  for (const font of fonts)
    if (typeof font === 'string' && (await fontIsLost(font)))
      faults.unshift({ words: `The file of the font ${ownFont(font)!.name} is not there. Add it again.` })
  return faults
}
