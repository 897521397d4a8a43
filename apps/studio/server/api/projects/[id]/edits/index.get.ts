import { z } from 'zod'

const schema = z.object({ after: sequenceSchema })

/** Log entries after a number, oldest first, at most a thousand. */
export default defineApi(async (event) => {
  const { after } = queryOf(event, schema)
  return { edits: await useServices().log.since(idOf(event), after) }
})
