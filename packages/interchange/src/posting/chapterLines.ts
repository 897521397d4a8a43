import { clock } from './clock'

/** Where a part of a film begins, in seconds, by name. */
export interface ChapterStart {
  at: number
  name: string
}

/** A line that names no chapter; the message says which and what is wrong. */
export class BadChapterLine extends Error {
  constructor(line: number, what: string) {
    super(`Chapter ${line}: ${what}`)
    this.name = 'BadChapterLine'
  }
}

const LINE = /^(?:(\d{1,3}):)?(\d{1,3}):([0-5]\d(?:\.\d{1,3})?)(?:\s+(.*))?$/

/**
 * Reads chapters as people write them into a description, a line each: a time, then a name.
 * @throws {BadChapterLine} for a line without a time
 */
export function readChapterLines(text: string): ChapterStart[] {
  const lines = text.split('\n').map((line) => line.trim())
  return lines
    .filter((line) => line !== '')
    .map((line, i) => {
      const [, hours, minutes, seconds, name] = LINE.exec(line) ?? []
      if (seconds === undefined) throw new BadChapterLine(i + 1, 'it begins with a time, such as 1:05 or 1:00:05.')
      const at = Number(hours ?? 0) * 3600 + Number(minutes) * 60 + Number(seconds)
      return { at, name: (name ?? '').trim() }
    })
}

/** Chapters as {@link readChapterLines} reads them; times to the hundredth of a second where they need it. */
export function writeChapterLines(chapters: readonly ChapterStart[]): string {
  return chapters.map(({ at, name }) => `${placed(at)} ${name}`.trimEnd()).join('\n')
}

/** A place to the hundredth of a second, where it needs it. */
function placed(seconds: number): string {
  const hundredths = Math.round(seconds * 100)
  const rest = hundredths % 100
  return `${clock(hundredths / 100)}${rest > 0 ? `.${String(rest).padStart(2, '0')}` : ''}`
}
