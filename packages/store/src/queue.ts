import { sql, type SQL } from 'drizzle-orm'
import PgBoss from 'pg-boss'
import type { Executor } from './work'

/**
 * Work for the workers, by queue: to probe an upload, to make an artefact, to make a proxy (which takes long and is
 * not to hold up the others), to render, to post a film, to help with a render, to say what one would come to, to draw
 * a project's poster, to free room.
 */
export const QUEUE_NAMES = [
  'probe',
  'artefact',
  'proxy',
  'render',
  'post',
  'help',
  'estimate',
  'poster',
  'tidy',
] as const
export type QueueName = (typeof QUEUE_NAMES)[number]
/** Queues whose jobs are held by rows of their own, with attempt and heartbeat; the others are asked for again. */
export type ClaimedQueue = Exclude<QueueName, 'help' | 'estimate' | 'poster' | 'tidy'>

/** A job names a row and the attempt at it; everything else is in the row. */
export interface Job {
  id: string
  attempt: number
}

/** The job queue on the same PostgreSQL. More machines: start more workers with the same address. */
export class Queue {
  private readonly boss: PgBoss
  private readonly started: Promise<void>

  constructor(url: string) {
    this.boss = new PgBoss({ connectionString: url, max: 4, application_name: 'dusk-queue' })
    this.boss.on('error', (error) => console.error(`Queue: ${error.message}`))
    this.started = this.boss.start().then(async () => {
      for (const name of QUEUE_NAMES) await this.boss.createQueue(name)
    })
    this.started.catch(() => {})
  }

  /** Settles once the queue can be used. */
  ready(): Promise<void> {
    return this.started
  }

  /**
   * Adds a job, with `db` in the transaction that writes its row. It is not tried again by the queue itself: rows that
   * lost their worker are found by their heartbeat.
   * @param priority higher comes first
   */
  async send(queue: QueueName, job: Job, db?: Executor, priority = 0): Promise<void> {
    await this.started
    const options = { retryLimit: 0, expireInHours: 23, priority, singletonKey: `${job.id}/${job.attempt}` }
    await this.boss.send(queue, job, db ? { ...options, db: { executeSql: onTransaction(db) } } : options)
  }

  /** Works on a queue, `parallel` jobs at once, until {@link stop}. */
  async work(queue: QueueName, parallel: number, handle: (job: Job) => Promise<void>): Promise<void> {
    await this.started
    for (let i = 0; i < parallel; i++)
      await this.boss.work<Job>(queue, { pollingIntervalSeconds: 0.5, batchSize: 1, priority: true }, async ([job]) => {
        if (job) await handle(job.data)
      })
  }

  async stop(): Promise<void> {
    await this.started.catch(() => {})
    await this.boss.stop({ graceful: false, wait: true, timeout: 1000 })
  }
}

/** Runs the queue's own SQL, with `$1 …` for values, inside a transaction. */
function onTransaction(db: Executor) {
  return async (text: string, values: unknown[] = []) => {
    const parts = text.split(/\$(\d+)/)
    const pieces: SQL[] = parts.map((part, i) =>
      i % 2 === 0 ? sql.raw(part) : sql`${plain(values[Number(part) - 1])}`,
    )
    return { rows: (await db.execute(sql.join(pieces))) as unknown as unknown[] }
  }
}

/** A value as the database's client takes it without knowing its type. */
function plain(value: unknown): unknown {
  if (value instanceof Date) return value.toISOString()
  return typeof value === 'object' && value !== null ? JSON.stringify(value) : (value ?? null)
}

/** Of waiting rows, those whose job is still in the queue, or was taken out of it just now; as `id/attempt`. */
export async function wantedKeys(
  db: Executor,
  queue: QueueName,
  rows: readonly Job[],
  silence: number,
): Promise<Set<string>> {
  if (rows.length === 0) return new Set()
  const keys = rows.map(({ id, attempt }) => `${id}/${attempt}`)
  const found = await db.execute(sql`
    select singleton_key as key from pgboss.job
    where name = ${queue} and singleton_key in (${sql.join(
      keys.map((key) => sql`${key}`),
      sql`, `,
    )})
      and (state in ('created', 'retry') or (state = 'active' and started_on > now() - ${`${silence} ms`}::interval))`)
  return new Set((found as unknown as { key: string }[]).map((row) => row.key))
}
