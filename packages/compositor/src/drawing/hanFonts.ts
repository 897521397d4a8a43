import type { FontFile } from './fonts'

/** Languages whose signs ship in slices: Japanese, Korean, and Chinese with whatever else is written in Han. */
export type HanLanguage = 'jp' | 'kr' | 'sc'

const HAN = /[\p{Script=Han}\p{Script=Hiragana}\p{Script=Katakana}\p{Script=Hangul}\u3000-\u303f\uff00-\uffef]/u

/**
 * Whose shapes a text's signs are written in: the same sign of Han looks otherwise in each language, so one that says
 * nothing of itself goes by the letters around it. `null` for texts without any.
 */
export function hanLanguage(text: string): HanLanguage | null {
  if (!HAN.test(text)) return null
  if (/[\p{Script=Hiragana}\p{Script=Katakana}]/u.test(text)) return 'jp'
  return /\p{Script=Hangul}/u.test(text) ? 'kr' : 'sc'
}

/** Names begin so, for {@link hanLanguage} to tell them apart. */
export const hanName = (language: HanLanguage) => `Noto Han ${language}`

const TABLES: Record<HanLanguage, () => Promise<{ default: Record<string, string> }>> = {
  jp: () => import('@fontsource-variable/noto-sans-jp/unicode.json'),
  kr: () => import('@fontsource-variable/noto-sans-kr/unicode.json'),
  sc: () => import('@fontsource-variable/noto-sans-sc/unicode.json'),
}

/** A slice of a font: its file, and the letters it holds as pairs of first and last. */
interface Slice {
  file: FontFile
  ranges: [number, number][]
}
const slices = new Map<HanLanguage, Promise<Slice[]>>()

async function readSlices(language: HanLanguage): Promise<Slice[]> {
  const table = (await TABLES[language]()).default
  const slug = `noto-sans-${language}`
  return Object.entries(table)
    .filter(([key]) => key.startsWith('['))
    .map(([key, letters]) => {
      const part = key.slice(1, -1)
      return {
        file: {
          name: `${hanName(language)} ${part.padStart(3, '0')}`,
          path: `@fontsource-variable/${slug}/files/${slug}-${part}-wght-normal.woff2`,
        },
        ranges: letters.split(',').map((range) => {
          const [from, to = from] = range.replace(/^U\+/i, '').split('-')
          return [parseInt(from!, 16), parseInt(to!, 16)]
        }),
      }
    })
}

function slicesOf(language: HanLanguage): Promise<Slice[]> {
  let reading = slices.get(language)
  if (!reading) slices.set(language, (reading = readSlices(language)))
  return reading
}

/** Where a letter is looked for that a text's own language does not have. */
const OTHERS: readonly HanLanguage[] = ['jp', 'sc', 'kr']

/**
 * Files that a text's Chinese, Japanese and Korean signs are in: some 40 kB each, and only those that it needs. Each
 * sign comes from the text's own language where that has it, so that all of them have its shapes, else from the first
 * other one that does.
 * @returns in the order in which signs are looked up
 */
export async function hanFiles(text: string): Promise<FontFile[]> {
  const own = hanLanguage(text)
  if (!own) return []
  let left = [...new Set(text)].map((letter) => letter.codePointAt(0)!).filter((code) => code > 0x7f)
  const files: FontFile[] = []
  const holds = ({ ranges }: Slice, code: number) => ranges.some(([from, to]) => code >= from && code <= to)
  for (const language of [own, ...OTHERS.filter((other) => other !== own)]) {
    const all = await slicesOf(language)
    files.push(...all.filter((slice) => left.some((code) => holds(slice, code))).map(({ file }) => file))
    left = left.filter((code) => HAN.test(String.fromCodePoint(code)) && !all.some((slice) => holds(slice, code)))
    if (left.length === 0) break
  }
  return files
}
