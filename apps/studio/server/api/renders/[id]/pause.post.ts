import { and, eq, inArray } from 'drizzle-orm'
import { announce, renders } from '@dusk/store'

/** Lays a render aside: what it has made so far is kept, and `resume` goes on from there. */
export default defineApi(async (event) => {
  const id = idOf(event)
  const { db, sql } = useServices()
  const [row] = await db
    .update(renders)
    .set({ state: 'paused' })
    .where(and(eq(renders.id, id), inArray(renders.state, ['waiting', 'working'])))
    .returning({ projectId: renders.projectId })
  if (!row) throw new Problem(409, 'Not under way', 'This render is not under way: there is nothing to pause.')
  // Whoever works on it stops, as for a cancel.
  await announce(sql, { kind: 'cancel', renderId: id })
  await announce(sql, { kind: 'render', projectId: row.projectId, renderId: id })
  return { id }
})
