import { eq } from 'drizzle-orm'
import { renders } from '@dusk/store'

/** The finished file; with `?download` under the name it was given. */
export default defineApi(async (event) => {
  const id = idOf(event)
  const { db, storage } = useServices()
  const [row] = await db.select({ name: renders.name, state: renders.state }).from(renders).where(eq(renders.id, id))
  if (row?.state !== 'ready') throw notFound('finished render')
  const download = 'download' in getQuery(event) ? `${row.name.replace(/\.mp4$/i, '')}.mp4` : undefined
  return sendFile(event, storage.path('renders', `${id}.mp4`), 'video/mp4', { download, lasting: true })
})
