import { and, eq, inArray, lt, or, sql } from 'drizzle-orm'
import type { Database } from './database'
import { renderChunks, renders } from './schema'
import type { ChunkState } from './schema'

/** How often a worker says that it goes on with its chunks, and how long silence means that it is gone. */
export const CHUNK_BEAT_MS = 1_000
export const CHUNK_SILENCE_MS = 10_000

/** A chunk of a render as it is shared out. */
export interface PlannedChunk {
  n: number
  key: string
  first: number
  end: number
  /** An earlier render had left it. */
  kept: boolean
}

/** A chunk that a worker has taken, and by which attempt. */
export interface TakenChunk {
  n: number
  attempt: number
}

/**
 * Shares the chunks of a render out. What another attempt at the same render had made or is making stays so, where it
 * is the same chunk still.
 */
export async function shareChunks(db: Database, renderId: string, planned: readonly PlannedChunk[]): Promise<void> {
  await db.transaction(async (tx) => {
    const before = new Map(
      (await tx.select().from(renderChunks).where(eq(renderChunks.renderId, renderId))).map((row) => [row.n, row]),
    )
    const changed = planned.filter(({ n, key }) => before.get(n)?.key !== key)
    const gone = [...before.keys()].filter((n) => !planned[n] || planned[n].key !== before.get(n)!.key)
    if (gone.length > 0)
      await tx.delete(renderChunks).where(and(eq(renderChunks.renderId, renderId), inArray(renderChunks.n, gone)))
    for (let i = 0; i < changed.length; i += 1000)
      await tx.insert(renderChunks).values(
        changed.slice(i, i + 1000).map(({ kept, ...chunk }) => ({
          ...{ renderId, ...chunk },
          state: kept ? ('kept' as const) : ('waiting' as const),
          drawn: kept ? chunk.end - chunk.first : 0,
        })),
      )
    // One that was made and is gone from the storage again has to be made anew.
    const lost = planned.filter(({ n, key, kept }) => {
      const row = before.get(n)
      return !kept && row?.key === key && (row.state === 'ready' || row.state === 'kept')
    })
    if (lost.length > 0)
      await tx
        .update(renderChunks)
        .set({ state: 'waiting', attempt: sql`${renderChunks.attempt} + 1`, drawn: 0 })
        .where(
          and(
            eq(renderChunks.renderId, renderId),
            inArray(
              renderChunks.n,
              lost.map(({ n }) => n),
            ),
          ),
        )
  })
}

/** Chunks of a render in order, for whoever takes them and whoever watches. */
export async function chunksOf(db: Database, renderId: string) {
  return db
    .select({
      n: renderChunks.n,
      key: renderChunks.key,
      first: renderChunks.first,
      end: renderChunks.end,
      state: renderChunks.state,
      attempt: renderChunks.attempt,
      drawn: renderChunks.drawn,
      worker: renderChunks.worker,
      silent: sql<boolean>`${renderChunks.state} = 'working'
        and ${renderChunks.heartbeatAt} < now() - ${`${CHUNK_SILENCE_MS} ms`}::interval`,
    })
    .from(renderChunks)
    .where(eq(renderChunks.renderId, renderId))
    .orderBy(renderChunks.n)
}
export type SharedChunk = Awaited<ReturnType<typeof chunksOf>>[number]

/** Which chunks nobody works on. */
const free = or(
  eq(renderChunks.state, 'waiting'),
  and(
    eq(renderChunks.state, 'working'),
    lt(renderChunks.heartbeatAt, sql`now() - ${`${CHUNK_SILENCE_MS} ms`}::interval`),
  ),
)

/** Takes a chunk that nobody works on, while its render goes on. @returns `null` when another was quicker */
export async function takeChunk(db: Database, renderId: string, n: number, worker: string): Promise<TakenChunk | null> {
  const going = sql`exists (
    select 1 from ${renders} where ${renders.id} = ${renderId} and ${renders.state} = 'working')`
  const [row] = await db
    .update(renderChunks)
    .set({
      ...{ state: 'working' as const, worker, drawn: 0 },
      attempt: sql`${renderChunks.attempt} + 1`,
      heartbeatAt: sql`now()`,
    })
    .where(and(eq(renderChunks.renderId, renderId), eq(renderChunks.n, n), free, going))
    .returning({ n: renderChunks.n, attempt: renderChunks.attempt })
  return row ?? null
}

/** Writes to a chunk as long as it is still that worker's. @returns whether it was */
export async function writeChunk(
  db: Database,
  renderId: string,
  { n, attempt }: TakenChunk,
  patch: { state?: Exclude<ChunkState, 'kept'>; drawn?: number },
): Promise<boolean> {
  const rows = await db
    .update(renderChunks)
    .set({ ...patch, heartbeatAt: sql`now()` })
    .where(
      and(
        eq(renderChunks.renderId, renderId),
        eq(renderChunks.n, n),
        eq(renderChunks.attempt, attempt),
        eq(renderChunks.state, 'working'),
      ),
    )
    .returning({ n: renderChunks.n })
  return rows.length > 0
}
