import { readFile } from 'node:fs/promises'
import { join } from 'node:path'
import { z } from 'zod'

const itemSchema = z.object({
  /** File name, which is also its name in the API. */
  name: z.string().regex(/^[a-z0-9-]+\.(wav|jpg|png)$/),
  title: z.string(),
  group: z.string(),
  kind: z.enum(['sound', 'still']),
  seconds: z.number(),
})
export type ShelfItem = z.infer<typeof itemSchema>

let known: ShelfItem[] | null = null

/** What is on the shelf; nothing when it was not made. */
export async function shelfItems(): Promise<ShelfItem[]> {
  const folder = process.env.DUSK_SHELF
  if (known || !folder) return known ?? []
  const text = await readFile(join(folder, 'shelf.json'), 'utf8').catch(() => null)
  if (text === null) return []
  known = z.object({ items: z.array(itemSchema) }).parse(JSON.parse(text)).items
  return known
}

/** An item of the shelf and its file. @throws 404 */
export async function shelfFile(name: string): Promise<{ item: ShelfItem; path: string }> {
  const item = (await shelfItems()).find((entry) => entry.name === name)
  if (!item) throw notFound('thing on the shelf')
  return { item, path: join(process.env.DUSK_SHELF!, item.name) }
}
