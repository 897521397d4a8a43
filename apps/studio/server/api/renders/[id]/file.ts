import { eq } from 'drizzle-orm'
import { deliveryOf } from '@dusk/interchange'
import { renders } from '@dusk/store'

/** The finished file; with `?download` under the name it was given. */
export default defineApi(async (event) => {
  const id = idOf(event)
  const { db, storage } = useServices()
  const [row] = await db
    .select({ name: renders.name, state: renders.state, settings: renders.settings })
    .from(renders)
    .where(eq(renders.id, id))
  if (row?.state !== 'ready') throw notFound('finished render')
  const { ending, type } = deliveryOf(row.settings.format)
  const bare = row.name.toLowerCase().endsWith(`.${ending}`) ? row.name.slice(0, -ending.length - 1) : row.name
  const download = 'download' in getQuery(event) ? `${bare}.${ending}` : undefined
  return sendFile(event, storage.path('renders', `${id}.${ending}`), type, { download, lasting: true })
})
