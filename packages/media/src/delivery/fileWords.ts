import { TICKS_PER_SECOND } from '@dusk/timeline'

/** What is written into a file about it. */
export interface FileWords {
  title?: string
  description?: string
  /** Parts of it by name, in ticks from its beginning, one after the other. */
  chapters?: readonly { from: number; to: number; name: string }[]
}

/** A value in ffmpeg's form of words about a file: some signs have to be masked. */
const masked = (text: string) => text.replace(/[=;#\\\n]/g, (sign) => `\\${sign}`)

/**
 * Words about a file in the form that ffmpeg reads (its "ffmetadata", version 1).
 * @returns `null` when there is nothing to say
 */
export function ffmetadata({ title, description, chapters = [] }: FileWords): string | null {
  if (!title && !description && chapters.length === 0) return null
  const lines = [';FFMETADATA1']
  if (title) lines.push(`title=${masked(title)}`)
  if (description) lines.push(`description=${masked(description)}`, `comment=${masked(description)}`)
  for (const { from, to, name } of chapters) {
    const [start, end] = [from, to].map((tick) => Math.round((tick / TICKS_PER_SECOND) * 1000))
    lines.push('[CHAPTER]', 'TIMEBASE=1/1000', `START=${start}`, `END=${end}`, `title=${masked(name)}`)
  }
  return `${lines.join('\n')}\n`
}
