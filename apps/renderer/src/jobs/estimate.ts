import { eq, lt, sql } from 'drizzle-orm'
import { estimates, type Job, type RenderEstimate } from '@dusk/store'
import { openDocument } from '@dusk/timeline'
import { estimateRender } from '../render/estimateRender'
import { RenderFailed } from '../render/request'
import type { Context } from './context'
import { awaitMadeFrames, madeFramesThere } from './madeFrames'
import { sourceBook } from './sourceBook'

/** Silence after which nobody wants an estimate any more, and how often it is looked for, in milliseconds. */
const SILENCE_MS = 6000
const LOOK_MS = 1000
/** Whether somebody asked for it just now, by the database's clock. */
const WANTED = sql<boolean>`${estimates.wantedAt} > now() - ${`${SILENCE_MS} ms`}::interval`

/** What is said where it fails for no fault of the person's: the render may still succeed. */
const UNKNOWN = 'What it comes to could not be found out; the log of the worker says why.'

/** How long an estimate is kept: what follows from it is in the render that it was for. */
const KEPT = '1 hour'

/**
 * Works out what a render would come to, for as long as somebody asks for it; the chunks that it makes on the way stay
 * for the render.
 */
export async function runEstimate(context: Context, { id }: Job): Promise<void> {
  const { connection, storage, stopping } = context
  const { db } = connection
  await db.delete(estimates).where(lt(estimates.wantedAt, sql`now() - ${KEPT}::interval`))
  const [row] = await db.select().from(estimates).where(eq(estimates.id, id))
  if (!row) return
  const unwanted = new AbortController()
  const look = async () => {
    const [now] = await db.select({ wanted: WANTED }).from(estimates).where(eq(estimates.id, id))
    if (!now?.wanted) unwanted.abort(new Error('Nobody waits for it any more.'))
  }
  await look()
  const looking = setInterval(() => void look().catch(() => {}), LOOK_MS)
  const write = (patch: Partial<typeof estimates.$inferInsert>) =>
    db.update(estimates).set(patch).where(eq(estimates.id, id))
  try {
    const project = openDocument(row.document)
    const book = await sourceBook(connection, project)
    const { reelId, settings } = row
    if (!(await madeFramesThere(connection, project, book)))
      throw new RenderFailed('Frames between those of a slowed clip are made first; how long that takes is not known.')
    const signal = AbortSignal.any([stopping, unwanted.signal])
    await awaitMadeFrames(context, project, book, { signal })
    const tell = async (found: RenderEstimate) => void (await write({ found }))
    await estimateRender({ project, reelId, settings, book, storage, signal }, tell)
    await write({ endedAt: new Date() })
  } catch (error) {
    if (stopping.aborted || unwanted.signal.aborted) return
    const said = error instanceof RenderFailed
    if (!said) console.error(`Estimate ${id}:`, error)
    await write({ message: said ? error.message : UNKNOWN, endedAt: new Date() }).catch(() => {})
  } finally {
    clearInterval(looking)
  }
}
