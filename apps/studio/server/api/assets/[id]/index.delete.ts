import { and, eq } from 'drizzle-orm'
import { announce, assets } from '@dusk/store'

/** Takes a file that could not be read in off the list. */
export default defineApi(async (event) => {
  const id = idOf(event)
  const { db, sql } = useServices()
  const [row] = await db
    .update(assets)
    .set({ dismissed: true })
    .where(and(eq(assets.id, id), eq(assets.state, 'failed')))
    .returning({ projectId: assets.projectId })
  if (!row) throw notFound('failed file')
  await announce(sql, { kind: 'asset', projectId: row.projectId, assetId: id })
  return { id }
})
