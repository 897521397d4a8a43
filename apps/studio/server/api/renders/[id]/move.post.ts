import { and, asc, eq, gt, inArray, ne } from 'drizzle-orm'
import { z } from 'zod'
import { announce, renders } from '@dusk/store'

const schema = z.object({
  /** The render that it comes behind; `null` puts it first. */
  after: z.uuid().nullable(),
})
/** Room between neighbours' places, so that others fit between them. */
const GAP = 1000

/** Puts a waiting or paused render behind another one, or first. */
export default defineApi(async (event) => {
  const id = idOf(event)
  const { after } = await bodyOf(event, schema)
  const { db, sql } = useServices()
  const open = inArray(renders.state, ['waiting', 'paused'])
  const projectId = await db.transaction(async (tx) => {
    const [row] = await tx
      .select()
      .from(renders)
      .where(and(eq(renders.id, id), open))
      .for('update')
    if (!row) throw new Problem(409, 'Not waiting', 'Only renders that wait can be put in order.')
    const placeOf = async (where: ReturnType<typeof and>) =>
      (await tx.select({ place: renders.place }).from(renders).where(where).orderBy(asc(renders.place)).limit(1))[0]
        ?.place
    const before = after ? await placeOf(eq(renders.id, after)) : undefined
    if (after && before === undefined) throw notFound('render')
    const next = await placeOf(
      and(open, ne(renders.id, id), before === undefined ? undefined : gt(renders.place, before)),
    )
    const from = before ?? (next ?? Date.now() * GAP) - 2 * GAP
    const to = next ?? from + 2 * GAP
    await tx
      .update(renders)
      .set({ place: Math.floor((from + to) / 2) })
      .where(eq(renders.id, id))
    return row.projectId
  })
  await announce(sql, { kind: 'render', projectId, renderId: id })
  return { id }
})
