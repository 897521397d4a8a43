import { readFile, rename, writeFile } from 'node:fs/promises'
import { join } from 'node:path'
import { z } from 'zod'
import type { PostLimits } from '@dusk/interchange'

/** How the board behaves: as it should, or as places do on a bad evening. */
export const MOODS = {
  well: 'Takes what comes, as fast as it comes',
  slow: 'Takes what comes, slowly',
  breaks: 'Breaks off half way, each time',
  refuses: 'Refuses whatever comes',
} as const
export type Mood = keyof typeof MOODS

/** Shapes of pictures that the board can be told to take. */
export const SHAPES = {
  any: { least: 0.4, most: 2.6, words: 'anything from tall to wide' },
  wide: { least: 1.2, most: 2.6, words: 'wide pictures, such as 16:9' },
  tall: { least: 0.4, most: 0.8, words: 'tall pictures, such as 9:16' },
  square: { least: 0.95, most: 1.05, words: 'square pictures' },
} as const

export const conductSchema = z.object({
  mood: z.enum(Object.keys(MOODS) as [Mood, ...Mood[]]),
  megabytes: z.coerce.number().min(1, 'at least 1 MB').max(100_000, 'at most 100,000 MB'),
  minutes: z.coerce.number().min(0.1, 'at least 0.1 minutes').max(1440, 'at most 1,440 minutes'),
  shape: z.enum(Object.keys(SHAPES) as [keyof typeof SHAPES, ...(keyof typeof SHAPES)[]]),
})
export type Conduct = z.infer<typeof conductSchema>

const AT_FIRST: Conduct = { mood: 'well', megabytes: 4000, minutes: 60, shape: 'any' }

/** The name under which the board is spoken of. */
export const PLACE = 'The practice board'

/** What the board takes as it is set now. */
export function limitsOf({ megabytes, minutes, shape }: Conduct): PostLimits {
  return {
    place: PLACE,
    kinds: ['video/mp4', 'video/webm'],
    maxBytes: megabytes * 1e6,
    maxSeconds: minutes * 60,
    shape: SHAPES[shape],
    title: 100,
    description: 5000,
    tags: { most: 20, length: 40 },
    chapters: { most: 100, leastSeconds: 2 },
    thumbnail: { maxBytes: 4e6, kinds: ['image/jpeg', 'image/png', 'image/webp'] },
  }
}

/** How the board behaves, kept in its folder. */
export class ConductBook {
  private current: Conduct = AT_FIRST

  private constructor(private readonly path: string) {}

  static async open(folder: string): Promise<ConductBook> {
    const book = new ConductBook(join(folder, 'conduct.json'))
    const kept = await readFile(book.path, 'utf8').catch(() => null)
    if (kept !== null) book.current = { ...AT_FIRST, ...readKept(kept) }
    return book
  }

  get now(): Conduct {
    return this.current
  }

  async set(next: Conduct): Promise<void> {
    this.current = next
    await writeFile(`${this.path}.new`, JSON.stringify(next))
    await rename(`${this.path}.new`, this.path)
  }
}

/** What was kept, as far as it can be read: a switch is soon set again. */
function readKept(text: string): Partial<Conduct> {
  try {
    return conductSchema.partial().parse(JSON.parse(text))
  } catch {
    return {}
  }
}
