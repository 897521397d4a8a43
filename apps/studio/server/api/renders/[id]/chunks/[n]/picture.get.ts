import { and, eq } from 'drizzle-orm'
import { takePicture } from '@dusk/media'
import { renderChunks } from '@dusk/store'

/** Pixels of the picture's height. */
const HEIGHT = 180

/** The first frame of a chunk that is made, while the store of chunks has it. */
export default defineApi(async (event) => {
  const { db, storage } = useServices()
  const n = Number(getRouterParam(event, 'n'))
  if (!Number.isInteger(n) || n < 0 || n > 1_000_000) throw notFound('chunk')
  const [row] = await db
    .select({ key: renderChunks.key })
    .from(renderChunks)
    .where(and(eq(renderChunks.renderId, idOf(event)), eq(renderChunks.n, n)))
  const folder = row && storage.path('chunks', row.key.slice(0, 2))
  const path = folder && (await chunkIn(storage, folder, row.key))
  if (!path || !(await storage.fetch(path))) throw notFound('chunk')
  setHeader(event, 'content-type', 'image/jpeg')
  setHeader(event, 'cache-control', 'private, max-age=3600')
  return takePicture(path, 0, HEIGHT)
})
