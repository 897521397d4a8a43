import { and, eq, inArray } from 'drizzle-orm'
import { announce, assets, listen, media, renders, type RenderProgress } from '@dusk/store'
import type { Connection } from '@dusk/store'
import type { Project } from '@dusk/timeline'
import { ToolError, type Storage } from '@dusk/media'
import { RenderFailed, renderReel } from '../render/renderReel'
import type { SourceBook } from '../render/sources'
import type { Context } from './context'
import { withHeartbeat } from './heartbeat'

/** The sources of a project that are ready to be rendered from. */
export async function sourceBook(connection: Connection, project: Project): Promise<SourceBook> {
  const ids = Object.keys(project.assets)
  if (ids.length === 0) return new Map()
  const rows = await connection.db
    .select({ id: assets.id, hash: media.hash, facts: media.facts })
    .from(assets)
    .innerJoin(media, eq(assets.hash, media.hash))
    .where(inArray(assets.id, ids))
  return new Map(rows.map(({ id, hash, facts }) => [id, { hash, facts }]))
}

/** Path of a finished render. */
export function renderPath(storage: Storage, renderId: string): string {
  return storage.path('renders', `${renderId}.mp4`)
}

/** Makes a render. A cancel, or another worker that took it over, ends it at once. */
export async function runRender(
  { connection, storage, stopping }: Context,
  renderId: string,
  attempt: number,
): Promise<void> {
  const { db, sql } = connection
  const mine = and(eq(renders.id, renderId), eq(renders.attempt, attempt))
  const now = new Date()
  const [row] = await db
    .update(renders)
    .set({ state: 'working', startedAt: now, heartbeatAt: now })
    .where(and(mine, eq(renders.state, 'waiting')))
    .returning()
  if (!row) return
  const tell = () => announce(sql, { kind: 'render', projectId: row.projectId, renderId })
  const cancel = new AbortController()
  const signal = AbortSignal.any([cancel.signal, stopping])
  const unlisten = await listen(connection, (event) => {
    if (event.kind === 'cancel' && event.renderId === renderId) cancel.abort(new Error('cancelled'))
  })
  const beat = async () => {
    const kept = await db
      .update(renders)
      .set({ heartbeatAt: new Date() })
      .where(and(mine, eq(renders.state, 'working')))
      .returning({ id: renders.id })
    return kept.length > 0
  }
  const progress = (value: RenderProgress) => {
    void db
      .update(renders)
      .set({ progress: value, heartbeatAt: new Date() })
      .where(and(mine, eq(renders.state, 'working')))
      .then(tell)
      .catch(() => {})
  }
  try {
    await tell()
    const book = await sourceBook(connection, row.document)
    const report = await withHeartbeat(
      beat,
      () => cancel.abort(new Error('cancelled')),
      () =>
        renderReel({
          project: row.document,
          reelId: row.reelId,
          settings: row.settings,
          book,
          storage,
          out: renderPath(storage, renderId),
          signal,
          progress,
        }),
    )
    await db
      .update(renders)
      .set({ state: 'ready', report, endedAt: new Date(), message: null })
      .where(and(mine, eq(renders.state, 'working')))
  } catch (error) {
    if (stopping.aborted) {
      // Told to stop: the render goes back to the queue as it is, its chunks stay.
      await db
        .update(renders)
        .set({ state: 'working', heartbeatAt: new Date(0) })
        .where(and(mine, eq(renders.state, 'working')))
      return
    }
    if (!cancel.signal.aborted) {
      const words =
        error instanceof RenderFailed
          ? error.message
          : error instanceof ToolError
            ? `The encoder stopped: ${error.message}`
            : `The render stopped: ${(error as Error).message}`
      if (!(error instanceof RenderFailed)) console.error(`Render ${renderId}:`, error)
      await db
        .update(renders)
        .set({ state: 'failed', message: words, endedAt: new Date() })
        .where(and(mine, eq(renders.state, 'working')))
    }
  } finally {
    await unlisten()
    await tell().catch(() => {})
  }
}
