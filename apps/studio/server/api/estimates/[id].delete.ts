import { eq } from 'drizzle-orm'
import { estimates } from '@dusk/store'

/** Ends an estimate that nobody waits for any more; what was made for it stays for the render. */
export default defineApi(async (event) => {
  const id = idOf(event)
  const [row] = await useServices().db.delete(estimates).where(eq(estimates.id, id)).returning({ id: estimates.id })
  if (!row) throw notFound('estimate')
  return { id }
})
