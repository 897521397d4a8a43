import { and, eq, gt, inArray, isNull, lt, ne, or, sql, type SQL } from 'drizzle-orm'
import type { PgColumn } from 'drizzle-orm/pg-core'
import type { Database } from './database'
import { wantedKeys, type Queue, type ClaimedQueue } from './queue'
import { artefacts, assets, posts, renders } from './schema'
import type { ArtefactKind, WantedArtefact } from './artefacts'

/** A transaction, or the database itself. */
export type Executor = Pick<Database, 'select' | 'insert' | 'update' | 'delete' | 'execute'>

/** How often work says that it goes on, and how long silence means that its worker is gone. */
export const HEARTBEAT_MS = 4_000
export const SILENCE_MS = 16_000
/** Attempts after which something that fails for no fault of the person's is given up. */
export const MOST_ATTEMPTS = 5

/** The tables that hold work, each with its key and its queue, and which of its rows are that queue's. */
const WORK = {
  probe: { table: assets, key: assets.id, rows: undefined },
  artefact: { table: artefacts, key: artefacts.key, rows: ne(artefacts.kind, 'proxy') },
  proxy: { table: artefacts, key: artefacts.key, rows: eq(artefacts.kind, 'proxy') },
  render: { table: renders, key: renders.id, rows: undefined },
  post: { table: posts, key: posts.id, rows: undefined },
} as const satisfies Record<ClaimedQueue, { table: WorkTable; key: PgColumn; rows: SQL | undefined }>
type WorkTable = typeof assets | typeof artefacts | typeof renders | typeof posts

type Row<Q extends ClaimedQueue> = (typeof WORK)[Q]['table']['$inferSelect']
type Patch<Q extends ClaimedQueue> = Partial<(typeof WORK)[Q]['table']['$inferInsert']>

/** Work that has come to a worker. All it writes is written only as long as the work is still its own. */
export class Claim<Q extends ClaimedQueue> {
  constructor(
    readonly queue: Q,
    readonly row: Row<Q>,
    private readonly db: Database,
  ) {}

  /** Writes to the row; `false` when it was lost to another worker, cancelled or removed. */
  async write(patch: Patch<Q>, db: Executor = this.db): Promise<boolean> {
    const { table, key } = WORK[this.queue]
    const rows = await db
      .update(table)
      .set(patch as never)
      .where(and(eq(key, idOf(this.queue, this.row)), eq(table.attempt, this.row.attempt), eq(table.state, 'working')))
      .returning({ attempt: table.attempt })
    return rows.length > 0
  }

  beat(): Promise<boolean> {
    return this.write({ heartbeatAt: new Date() } as Patch<Q>)
  }

  /** Says why it does not go on for now. */
  say(message: string): Promise<boolean> {
    return this.write({ message } as Patch<Q>)
  }

  /** Gives the work back as it is: the next look for silent work finds it at once. */
  giveBack(): Promise<boolean> {
    return this.write({ heartbeatAt: new Date(0) } as Patch<Q>)
  }
}

function idOf<Q extends ClaimedQueue>(queue: Q, row: Row<Q>): string {
  return queue === 'artefact' || queue === 'proxy' ? (row as Row<'artefact'>).key : (row as Row<'probe'>).id
}

/** Takes up work, unless somebody else has it or had it already. */
export async function claim<Q extends ClaimedQueue>(
  db: Database,
  queue: Q,
  id: string,
  attempt: number,
): Promise<Claim<Q> | null> {
  const { table, key } = WORK[queue]
  const [row] = await db
    .update(table)
    .set({ state: 'working', message: null, heartbeatAt: new Date() } as never)
    .where(and(eq(key, id), eq(table.attempt, attempt), eq(table.state, 'waiting')))
    .returning()
  return row ? new Claim(queue, row as Row<Q>, db) : null
}

/**
 * Puts work back into its queue that nobody works on: its worker has fallen silent, or its job was lost. Row and job
 * change in one transaction.
 * @returns how much was taken up again
 */
export async function takeUpAgain(db: Database, queue: Queue): Promise<number> {
  let found = 0
  for (const name of Object.keys(WORK) as ClaimedQueue[]) {
    const { table, key, rows: own } = WORK[name]
    const silent = or(isNull(table.heartbeatAt), lt(table.heartbeatAt, new Date(Date.now() - SILENCE_MS)))
    await db.transaction(async (tx) => {
      const rows = (await tx
        .select({ id: key, attempt: table.attempt, state: table.state })
        .from(table)
        .where(and(inArray(table.state, ['waiting', 'working']), silent, own))
        .limit(500)
        .for('update', { skipLocked: true })) as { id: string; attempt: number; state: string }[]
      const waiting = rows.filter((row) => row.state === 'waiting')
      const alive = await wantedKeys(tx, name, waiting, SILENCE_MS)
      for (const { id, attempt, state } of rows) {
        if (state === 'waiting' && alive.has(`${id}/${attempt}`)) continue
        const next = { state: 'waiting' as const, attempt: attempt + 1, heartbeatAt: new Date() }
        await tx
          .update(table)
          .set(next as never)
          .where(and(eq(key, id), eq(table.attempt, attempt)))
        await queue.send(name, { id, attempt: next.attempt }, tx)
        found++
      }
    })
  }
  return found
}

/** What is quick and of use by itself comes before what takes long; a first glance before all. */
const URGENCY: Record<ArtefactKind, number> = { glance: 20, still: 10, sound: 10, between: 10, proxy: 0 }
/** Of proxies, those that somebody looks at come before others. */
const LOOKED_AT = 10
/** How long somebody is taken to look at what they looked at. */
const LOOKING_MS = 10_000

/** The queue that an artefact is made by. */
const queueFor = (kind: ArtefactKind) => (kind === 'proxy' ? 'proxy' : 'artefact')

/** Asks for artefacts: those that nobody asked for yet get a row and a job. */
export async function wantArtefacts(
  db: Executor,
  queue: Queue,
  wanted: readonly WantedArtefact[],
  options: { again?: boolean } = {},
): Promise<void> {
  if (wanted.length === 0) return
  const rows = await db
    .insert(artefacts)
    .values(wanted.map((entry) => ({ ...entry, state: 'waiting' as const, heartbeatAt: new Date() })))
    .onConflictDoNothing()
    .returning({ key: artefacts.key, kind: artefacts.kind, attempt: artefacts.attempt })
  if (options.again) {
    const keys = wanted.map((entry) => entry.key)
    rows.push(
      ...(await db
        .update(artefacts)
        .set({ state: 'waiting', attempt: sql`${artefacts.attempt} + 1`, heartbeatAt: new Date(), message: null })
        .where(and(inArray(artefacts.key, keys), eq(artefacts.state, 'failed')))
        .returning({ key: artefacts.key, kind: artefacts.kind, attempt: artefacts.attempt })),
    )
  }
  for (const { key, kind, attempt } of rows) await queue.send(queueFor(kind), { id: key, attempt }, db, URGENCY[kind])
}

/**
 * Says that somebody looks at a frame of a source whose proxy is not there yet: what holds it is made next.
 * @param key of the proxy
 */
export async function lookAt(db: Database, queue: Queue, key: string, frame: number): Promise<void> {
  await db.transaction(async (tx) => {
    const [row] = await tx
      .select({ state: artefacts.state, attempt: artefacts.attempt, nearAt: artefacts.nearAt })
      .from(artefacts)
      .where(and(eq(artefacts.key, key), inArray(artefacts.state, ['waiting', 'working'])))
      .for('update')
    if (!row) return
    await tx.update(artefacts).set({ near: frame, nearAt: new Date() }).where(eq(artefacts.key, key))
    const known = row.nearAt !== null && row.nearAt.getTime() > Date.now() - LOOKING_MS
    // Its job may wait far behind others; one that comes when the work is taken up already finds nothing to do.
    if (row.state === 'waiting' && !known) await queue.send('proxy', { id: key, attempt: row.attempt }, tx, LOOKED_AT)
  })
}

/** Whether first glances at sources are still to be made: what takes long stands back until they are. */
export async function glancesMissing(db: Executor): Promise<boolean> {
  const [one] = await db
    .select({ key: artefacts.key })
    .from(artefacts)
    .where(and(eq(artefacts.kind, 'glance'), inArray(artefacts.state, ['waiting', 'working'])))
    .limit(1)
  return one !== undefined
}

/**
 * Lets others have their turn: puts a proxy that is not finished back into the queue, behind those that wait. One that
 * is looked at goes on unless others are, too, or a first glance is missing.
 * @returns whether it was put back, and is no longer this worker's
 */
export async function giveTurn(db: Database, queue: Queue, { row }: Claim<'proxy'>): Promise<boolean> {
  return db.transaction(async (tx) => {
    const since = new Date(Date.now() - LOOKING_MS)
    const [own] = await tx.select({ nearAt: artefacts.nearAt }).from(artefacts).where(eq(artefacts.key, row.key))
    const looked = own?.nearAt != null && own.nearAt > since
    const [other] = await tx
      .select({ key: artefacts.key })
      .from(artefacts)
      .where(
        and(
          eq(artefacts.kind, 'proxy'),
          eq(artefacts.state, 'waiting'),
          looked ? gt(artefacts.nearAt, since) : undefined,
        ),
      )
      .limit(1)
    if (!other && !(await glancesMissing(tx))) return false
    const given = await new Claim('proxy', row, db).write({ state: 'waiting', heartbeatAt: new Date() }, tx)
    if (given) await queue.send('proxy', { id: row.key, attempt: row.attempt }, tx, looked ? LOOKED_AT : 0)
    return given
  })
}
