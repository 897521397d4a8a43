import { eq, sql } from 'drizzle-orm'
import { estimates } from '@dusk/store'

/** What a render would come to, as far as is known; a worker goes on with it as long as it is asked for. */
export default defineApi(async (event) => {
  const [row] = await useServices()
    .db.update(estimates)
    .set({ wantedAt: sql`now()` })
    .where(eq(estimates.id, idOf(event)))
    .returning({ found: estimates.found, message: estimates.message, endedAt: estimates.endedAt })
  if (!row) throw notFound('estimate')
  return row
})
