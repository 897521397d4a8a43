import { and, eq, inArray, sql as text } from 'drizzle-orm'
import { announce, renders } from '@dusk/store'

/** Goes on with a render that was paused, or tries one again that failed or was cancelled. What was made stays made. */
export default defineApi(async (event) => {
  const id = idOf(event)
  const { db, sql, queue } = useServices()
  const projectId = await db.transaction(async (tx) => {
    const [row] = await tx
      .update(renders)
      .set({
        ...{ state: 'waiting' as const, message: null, progress: null, endedAt: null, heartbeatAt: new Date() },
        attempt: text`${renders.attempt} + 1`,
      })
      .where(and(eq(renders.id, id), inArray(renders.state, ['paused', 'failed', 'cancelled'])))
      .returning({ projectId: renders.projectId, attempt: renders.attempt })
    if (!row)
      throw new Problem(409, 'Not at rest', 'This render is under way, or done: there is nothing to go on with.')
    await queue.send('render', { id, attempt: row.attempt }, tx)
    return row.projectId
  })
  await announce(sql, { kind: 'render', projectId, renderId: id })
  return { id }
})
