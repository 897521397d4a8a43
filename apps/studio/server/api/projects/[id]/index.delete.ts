import { and, eq, isNull } from 'drizzle-orm'
import { announce, projects } from '@dusk/store'

/** Puts a project away. It can be brought back with `restore`. */
export default defineApi(async (event) => {
  const id = idOf(event)
  const { db, sql, log } = useServices()
  const gone = await db
    .update(projects)
    .set({ deletedAt: new Date() })
    .where(and(eq(projects.id, id), isNull(projects.deletedAt)))
    .returning({ id: projects.id })
  if (gone.length === 0) throw notFound('project')
  log.forget(id)
  await announce(sql, { kind: 'projects' })
  return { id }
})
