import { eq } from 'drizzle-orm'
import { projects } from '@dusk/store'

/** A frame of the project's first reel, as it was drawn last. */
export default defineApi(async (event) => {
  const id = idOf(event)
  const { db, storage } = useServices()
  const [row] = await db.select({ seq: projects.posterSeq }).from(projects).where(eq(projects.id, id))
  const path = row?.seq != null ? storage.path('posters', `${id}-${row.seq}.jpg`) : null
  if (!path || !(await storage.fetch(path))) throw notFound('poster')
  return sendFile(event, path, 'image/jpeg', { lasting: true })
})
