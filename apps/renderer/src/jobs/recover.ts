import { and, eq, isNull, lt, or, sql } from 'drizzle-orm'
import { assets, media, renders } from '@dusk/store'
import type { Context } from './context'
import { SILENCE_MS } from './heartbeat'

/** Puts back into the queue what a worker left when it died: work whose heartbeat has stopped. */
export async function recoverLostWork({ connection, queue }: Context): Promise<void> {
  const { db } = connection
  const silent = new Date(Date.now() - SILENCE_MS)
  const lostRenders = await db
    .update(renders)
    .set({ state: 'waiting', attempt: sql`${renders.attempt} + 1`, progress: null })
    .where(and(eq(renders.state, 'working'), or(isNull(renders.heartbeatAt), lt(renders.heartbeatAt, silent))))
    .returning({ renderId: renders.id, attempt: renders.attempt })
  for (const job of lostRenders) await queue.send('render', job)

  const lostMedia = await db
    .update(media)
    .set({ state: 'waiting', heartbeatAt: new Date() })
    .where(and(eq(media.state, 'working'), or(isNull(media.heartbeatAt), lt(media.heartbeatAt, silent))))
    .returning({ hash: media.hash })
  for (const job of lostMedia) await queue.send('make', job)
}

/**
 * At start: uploads that were never looked at, and media that wait without a job, because a process died in between.
 */
export async function recoverWaiting({ connection, queue }: Context): Promise<void> {
  const { db } = connection
  const minuteAgo = new Date(Date.now() - 60_000)
  const uploads = await db
    .select({ assetId: assets.id })
    .from(assets)
    .where(and(eq(assets.state, 'examining'), lt(assets.createdAt, minuteAgo)))
  for (const job of uploads) await queue.send('examine', job)
  const waiting = await db
    .select({ hash: media.hash })
    .from(media)
    .where(and(eq(media.state, 'waiting'), lt(media.createdAt, minuteAgo)))
  for (const job of waiting) await queue.send('make', job)
}
