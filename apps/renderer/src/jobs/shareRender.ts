import { setTimeout as wait } from 'node:timers/promises'
import { listen, renders, shareChunks, type Job } from '@dusk/store'
import { openDocument } from '@dusk/timeline'
import { eq } from 'drizzle-orm'
import { drawChunks } from '../render/drawChunks'
import { planRender } from '../render/planRender'
import { checkSources } from '../render/renderReel'
import type { SharedRender } from '../render/request'
import type { Context } from './context'
import { sourceBook } from './sourceBook'
import { SharedChunks } from './sharedChunks'

/** Most workers that are asked to help with one render, and chunks that make one worth asking. */
const MOST_HELPERS = 16
const CHUNKS_A_HELPER = 2

/** Renders that this process puts together just now: while it does, it helps with no other. */
const own = new Set<string>()

/** Has the chunks of a render made by this worker and by any other that has nothing to do. */
export async function shareRender(
  { connection, queue, storage }: Pick<Context, 'connection' | 'queue' | 'storage'>,
  { id, attempt }: Job,
  { work, chunks, missing, meter, films, signal }: SharedRender,
): Promise<void> {
  const { db } = connection
  const absent = new Set(missing.map(({ n }) => n))
  await shareChunks(
    db,
    id,
    chunks.map(({ n, key, first, end }) => ({ n, key, first, end, kept: !absent.has(n) })),
  )
  const helpers = Math.min(MOST_HELPERS, Math.floor(missing.length / CHUNKS_A_HELPER))
  // Each by its own number: the queue holds one job of a name at a time.
  for (let i = 0; i < helpers; i++) await queue.send('help', { id, attempt: attempt * MOST_HELPERS + i })
  const kept = chunks.reduce((sum, { n, first, end }) => sum + (absent.has(n) ? 0 : end - first), 0)
  const supply = new SharedChunks(db, id, chunks, {
    stays: true,
    signal,
    seen: (rows) => {
      const done = rows.reduce((sum, { drawn }) => sum + drawn, 0)
      meter.reach(done, done - kept)
    },
  })
  own.add(id)
  try {
    await drawChunks(work, missing, supply, storage, { signal, films })
  } finally {
    own.delete(id)
    await supply.close()
  }
}

/** Milliseconds between two looks whether this worker has time to help. */
const BUSY_MS = 500

/** Draws chunks of a render that another worker puts together, for as long as there are any. */
export async function helpRender(context: Context, { id }: Job): Promise<void> {
  const { connection, storage, stopping } = context
  const { db } = connection
  const going = async () => {
    const [row] = await db.select().from(renders).where(eq(renders.id, id))
    return row?.state === 'working' ? row : null
  }
  while (own.size > 0 && !stopping.aborted) {
    if (own.has(id)) return
    await wait(BUSY_MS)
  }
  const row = await going()
  if (!row || stopping.aborted) return
  const cancel = new AbortController()
  const unlisten = await listen(connection, (event) => {
    if (event.kind === 'cancel' && event.renderId === id) cancel.abort(new Error('cancelled'))
  })
  const signal = AbortSignal.any([stopping, cancel.signal])
  let supply: SharedChunks | null = null
  try {
    const project = openDocument(row.document)
    const book = await sourceBook(connection, project)
    await checkSources(project, row.reelId, book, storage, 'pictures')
    const { work, chunks } = await planRender({ ...row, project, book, storage, signal })
    supply = new SharedChunks(db, id, chunks, { stays: false, signal })
    // A worker with another ffmpeg, or of another version of the program, would make other chunks.
    if (!(await supply.isOf(chunks))) return
    await drawChunks(work, chunks, supply, storage, { signal })
  } catch (error) {
    // The worker that puts the render together draws what this one gives back, and says what is wrong if it can't.
    if (!signal.aborted) console.error(`Helping with render ${id}:`, error)
  } finally {
    await supply?.close()
    await unlisten()
  }
}
