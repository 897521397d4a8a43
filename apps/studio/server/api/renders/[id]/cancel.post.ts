import { and, eq, inArray } from 'drizzle-orm'
import { announce, renders } from '@dusk/store'

/** Stops a render that waits or works. */
export default defineApi(async (event) => {
  const id = idOf(event)
  const { db, sql } = useServices()
  const [row] = await db
    .update(renders)
    .set({ state: 'cancelled', endedAt: new Date() })
    .where(and(eq(renders.id, id), inArray(renders.state, ['waiting', 'working', 'paused'])))
    .returning({ projectId: renders.projectId })
  if (!row) throw new Problem(409, 'Already ended', 'This render has ended already.')
  await announce(sql, { kind: 'cancel', renderId: id })
  await announce(sql, { kind: 'render', projectId: row.projectId, renderId: id })
  return { id }
})
