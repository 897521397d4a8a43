import { ilike, or } from 'drizzle-orm'
import { z } from 'zod'
import { projects, renders } from '@dusk/store'

const schema = z.object({
  /** At most so many of them. */
  count: z.coerce.number().int().min(1).max(20_000).default(200),
  /** Part of the name of a render or of its project. */
  words: z.string().trim().max(200).default(''),
})

/** Renders of all projects: those that can still run first, then the newest; `more` says whether there are others. */
export default defineApi(async (event) => {
  const { count, words } = queryOf(event, schema)
  const pattern = `%${words.replace(/[\\%_]/g, '\\$&')}%`
  const where = words === '' ? undefined : or(ilike(renders.name, pattern), ilike(projects.name, pattern))
  const found = await listRenders(where, count + 1)
  return { renders: found.slice(0, count), more: found.length > count }
})
