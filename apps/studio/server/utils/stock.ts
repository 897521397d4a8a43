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
export type StockItem = z.infer<typeof itemSchema>

let known: StockItem[] | null = null

/** What is in stock; nothing when it was not made. */
export async function stockItems(): Promise<StockItem[]> {
  const folder = process.env.DUSK_STOCK
  if (known || !folder) return known ?? []
  const text = await readFile(join(folder, 'stock.json'), 'utf8').catch(() => null)
  if (text === null) return []
  known = z.object({ items: z.array(itemSchema) }).parse(JSON.parse(text)).items
  return known
}

/** An item of the stock and its file. @throws 404 */
export async function stockFile(name: string): Promise<{ item: StockItem; path: string }> {
  const item = (await stockItems()).find((entry) => entry.name === name)
  if (!item) throw notFound('thing of the stock')
  return { item, path: join(process.env.DUSK_STOCK!, item.name) }
}
