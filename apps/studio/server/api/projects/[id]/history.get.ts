import { z } from 'zod'

const schema = z.object({ before: sequenceSchema.min(1).optional() })

/** What was done to a project, newest first, a hundred entries at a time. */
export default defineApi(async (event) => {
  const { before } = queryOf(event, schema)
  return { entries: await useServices().log.history(idOf(event), before ?? null) }
})
