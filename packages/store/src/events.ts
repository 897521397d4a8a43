import { z } from 'zod'
import type { Connection } from './database'
import { FREEABLE } from './diskUse'

/** What PostgreSQL carries between processes: that something changed, never the change itself. */
export const eventSchema = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('edit'), projectId: z.string(), seq: z.int() }),
  z.object({ kind: z.literal('asset'), projectId: z.string(), assetId: z.string() }),
  z.object({ kind: z.literal('media'), hash: z.string() }),
  z.object({
    kind: z.literal('render'),
    projectId: z.string(),
    renderId: z.string(),
    /** It is done just now, or has failed. */
    ended: z.enum(['ready', 'failed']).optional(),
  }),
  z.object({ kind: z.literal('cancel'), renderId: z.string() }),
  z.object({ kind: z.literal('projects') }),
  /** The studio did not hear for a while: what was told meanwhile is not known. It is told to windows only. */
  z.object({ kind: z.literal('missed') }),
  /** Room was freed, so many bytes; `null` when it could not be. */
  z.object({ kind: z.literal('disk'), what: z.enum(FREEABLE), bytes: z.number().nullable() }),
])
export type StoreEvent = z.infer<typeof eventSchema>

const CHANNEL = 'dusk'

/** Tells every process. Inside a transaction it is told when that commits. */
export async function announce(sql: Pick<Connection['sql'], 'notify'>, event: StoreEvent): Promise<void> {
  await sql.notify(CHANNEL, JSON.stringify(event))
}

/** Calls `hear` for every event until the returned function is called. `again` is called after a lost connection. */
export async function listen(
  connection: Connection,
  hear: (event: StoreEvent) => void,
  again?: () => void,
): Promise<() => Promise<void>> {
  let first = true
  const subscription = await connection.sql.listen(
    CHANNEL,
    (payload) => {
      const parsed = eventSchema.safeParse(JSON.parse(payload))
      if (parsed.success) hear(parsed.data)
    },
    () => {
      if (!first) again?.()
      first = false
    },
  )
  return () => subscription.unlisten()
}
