import { TICKS_PER_SECOND } from '@dusk/timeline'

/** What is written into a file about it. */
export interface FileWords {
  title?: string
  description?: string
  /** Parts of it by name, in ticks from its beginning, one after the other. */
  chapters?: readonly { from: number; to: number; name: string }[]
}

/**
 * The times of chapters in the form that ffmpeg reads (its "ffmetadata", version 1). No text goes through it: it takes
 * a backslash at the end of one, masked or not, for a line that goes on.
 */
export function chapterTimes(chapters: NonNullable<FileWords['chapters']>): string {
  const lines = chapters.flatMap(({ from, to }) => {
    const [start, end] = [from, to].map((tick) => Math.round((tick / TICKS_PER_SECOND) * 1000))
    return ['[CHAPTER]', 'TIMEBASE=1/1000', `START=${start}`, `END=${end}`]
  })
  return `${[';FFMETADATA1', ...lines].join('\n')}\n`
}

/** ffmpeg's arguments for all text of a file: each is taken as it is, whatever signs it holds. */
export function wordArgs({ title, description, chapters = [] }: FileWords): string[] {
  const about = { title, description, comment: description }
  return [
    ...Object.entries(about).flatMap(([name, text]) => (text ? ['-metadata', `${name}=${text}`] : [])),
    ...chapters.flatMap(({ name }, at) => (name ? [`-metadata:c:${at}`, `title=${name}`] : [])),
  ]
}
