import { BadMedia, waitsFor } from '@dusk/media'
import { isTrap } from '@dusk/sound'
import { claim, HEARTBEAT_MS, MOST_ATTEMPTS, type Claim, type Job, type ClaimedQueue } from '@dusk/store'
import type { Context } from './context'

/** Thrown, or a signal's reason, when work went to another worker, was cancelled, or its row was removed. */
export class WorkLost extends Error {
  constructor() {
    super('This work is no longer this worker’s.')
    this.name = 'WorkLost'
  }
}

/** What a job does while it has the work, and how it ends when the fault is not the person's. */
export interface ClaimedWork<Q extends ClaimedQueue> {
  /** Does the work and writes its end. `signal` is aborted when the worker stops or the work is lost. */
  run(claim: Claim<Q>, signal: AbortSignal): Promise<void>
  /** Ends the work as failed, with words for the person. */
  fail(claim: Claim<Q>, message: string): Promise<void>
  /** Tells those who watch that the row was changed. */
  tell(claim: Claim<Q>): Promise<void>
  /** The words for an error that can't be helped by trying again, or `null` to try again. */
  final?(error: unknown): string | null
  /** What the work waits for, in words, where an error passes by itself; `null` for any other. */
  awaits?(error: unknown): string | null
}

/**
 * Takes up a job's row and works on it, saying every few seconds that it goes on. What fails for a reason of the file
 * ends at once; what fails for a reason of ours (the database was away) is tried again by whoever finds it, up to
 * {@link MOST_ATTEMPTS} times, and what finds no room on the disk, no bucket or no place to send to, until there is
 * one. Nothing of the person's is deleted on the way.
 * @returns whether it was there to be taken up
 */
export async function runClaimed<Q extends ClaimedQueue>(
  { connection, stopping }: Pick<Context, 'connection' | 'stopping'>,
  queue: Q,
  job: Job,
  work: ClaimedWork<Q>,
): Promise<boolean> {
  const mine = await claim(connection.db, queue, job.id, job.attempt)
  if (!mine) return false
  await workOn(stopping, queue, job, mine, work)
  return true
}

async function workOn<Q extends ClaimedQueue>(
  stopping: AbortSignal,
  queue: Q,
  job: Job,
  mine: Claim<Q>,
  work: ClaimedWork<Q>,
): Promise<void> {
  const lost = new AbortController()
  const beat = setInterval(() => {
    // A database that is away for a while does not end the work: it may be back before the next beat.
    mine.beat().then(
      (kept) => !kept && lost.abort(new WorkLost()),
      () => {},
    )
  }, HEARTBEAT_MS)
  try {
    await work.run(mine, AbortSignal.any([stopping, lost.signal]))
  } catch (error) {
    if (lost.signal.aborted || error instanceof WorkLost) return
    if (stopping.aborted) {
      await mine.giveBack().catch(() => {})
      return
    }
    const reason = waitsFor(error) ?? work.awaits?.(error) ?? null
    if (reason !== null) {
      // It falls silent from here, and is taken up again a little later.
      if (await mine.say(reason).catch(() => false)) await work.tell(mine).catch(() => {})
      return
    }
    const words = error instanceof BadMedia ? error.message : (work.final?.(error) ?? null)
    if (words !== null) return await work.fail(mine, words)
    console.error(`${queue} ${job.id}, attempt ${job.attempt}:`, error)
    // It would stop at the same place again, and what it left behind may be in the way of others' work.
    if (isTrap(error))
      return await work.fail(mine, `A fault of Dusk Reel’s own stopped it: ${(error as Error).message}`)
    if (job.attempt + 1 < MOST_ATTEMPTS) return
    await work.fail(mine, `It was tried ${MOST_ATTEMPTS} times and did not succeed: ${(error as Error).message}`)
  } finally {
    clearInterval(beat)
  }
}
