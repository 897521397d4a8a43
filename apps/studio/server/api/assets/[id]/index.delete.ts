import { and, eq, isNotNull, or } from 'drizzle-orm'
import { announce, assets } from '@dusk/store'

/** Takes a file that could not be read in off the list, or ends the offer of one that was given for another source. */
export default defineApi(async (event) => {
  const id = idOf(event)
  const { db, sql } = useServices()
  const [row] = await db
    .update(assets)
    .set({ dismissed: true })
    .where(and(eq(assets.id, id), or(eq(assets.state, 'failed'), isNotNull(assets.replaces))))
    .returning({ projectId: assets.projectId })
  if (!row) throw notFound('file to decide about')
  await announce(sql, { kind: 'asset', projectId: row.projectId, assetId: id })
  return { id }
})
