import { eq } from 'drizzle-orm'
import { announce, projects } from '@dusk/store'

/** Brings a deleted project back. */
export default defineApi(async (event) => {
  const id = idOf(event)
  const { db, sql } = useServices()
  const back = await db
    .update(projects)
    .set({ deletedAt: null })
    .where(eq(projects.id, id))
    .returning({ id: projects.id })
  if (back.length === 0) throw notFound('project')
  await announce(sql, { kind: 'projects' })
  return { id }
})
