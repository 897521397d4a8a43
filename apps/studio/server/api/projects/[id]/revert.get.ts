import { z } from 'zod'

const schema = z.object({ seq: sequenceSchema })

/** The command that brings a project back to how it was after an edit; sending it is an edit like any other. */
export default defineApi(async (event) => {
  const { seq } = queryOf(event, schema)
  return { command: await useServices().log.revert(idOf(event), seq) }
})
