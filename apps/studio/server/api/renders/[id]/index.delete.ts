import { and, eq, notInArray } from 'drizzle-orm'
import { removeFile } from '@dusk/media'
import { announce, renders } from '@dusk/store'

/** Removes an ended render and its file. */
export default defineApi(async (event) => {
  const id = idOf(event)
  const { db, sql, storage } = useServices()
  const [row] = await db
    .delete(renders)
    .where(and(eq(renders.id, id), notInArray(renders.state, ['waiting', 'working'])))
    .returning({ projectId: renders.projectId })
  if (!row) throw new Problem(409, 'Not ended', 'There is no such render, or it is still at work. Cancel it first.')
  await removeFile(storage.path('renders', `${id}.mp4`))
  await announce(sql, { kind: 'render', projectId: row.projectId, renderId: id })
  return { id }
})
