import { sql } from 'drizzle-orm'
import type { Database } from './database'
import type { renders } from './schema'
import type { Executor } from './work'

type RenderState = typeof renders.$inferSelect.state

/** States of renders that can still run: what their documents name is needed. */
export const RUNNABLE = ['waiting', 'working', 'paused'] as const satisfies readonly RenderState[]

/**
 * What of some names is spoken of by anything that lives: documents, edits that can be taken back, renders that can
 * still run, and settings. The view `living` says what that is, for all that asks.
 * @param names ids or hashes
 */
export async function livingNames(db: Executor, names: readonly string[]): Promise<Set<string>> {
  if (names.length === 0) return new Set()
  const rows = await db.execute<{ name: string }>(sql`
    select distinct found[1] as name
    from living, regexp_matches(body, '[0-9a-f]{64}|[0-9a-f]{8}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{12}', 'g')
      as found
    where found[1] in (${sql.join(
      names.map((name) => sql`${name}`),
      sql`, `,
    )})`)
  return new Set([...rows].map(({ name }) => name))
}

/** Space of advisory locks on stored files. */
const FILES = 7_410_227

/**
 * Does something to a stored file while nobody else does: whoever takes one in finds it there, or the one who removes
 * it has gone before.
 * @param hash of the file
 * @param work in a transaction that holds the lock to its end
 */
export function withFile<T>(db: Database, hash: string, work: (tx: Executor) => Promise<T>): Promise<T> {
  return db.transaction(async (tx) => {
    await tx.execute(sql`select pg_advisory_xact_lock(${FILES}, hashtext(${hash}))`)
    return work(tx)
  })
}
