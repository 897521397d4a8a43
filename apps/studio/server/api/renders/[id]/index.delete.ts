import { and, eq, notInArray } from 'drizzle-orm'
import { deliveryOf } from '@dusk/interchange'
import { announce, renders } from '@dusk/store'

/** Removes an ended render and its file. */
export default defineApi(async (event) => {
  const id = idOf(event)
  const { db, sql, storage } = useServices()
  const [row] = await db
    .delete(renders)
    .where(and(eq(renders.id, id), notInArray(renders.state, ['waiting', 'working', 'paused'])))
    .returning({ projectId: renders.projectId, settings: renders.settings })
  if (!row) throw new Problem(409, 'Not ended', 'There is no such render, or it is still at work. Cancel it first.')
  for (const ending of [deliveryOf(row.settings.format).ending, 'jpg'])
    await storage.remove(storage.path('renders', `${id}.${ending}`))
  await announce(sql, { kind: 'render', projectId: row.projectId, renderId: id })
  return { id }
})
