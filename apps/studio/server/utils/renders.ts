import type { H3Event } from 'h3'
import { and, desc, eq, inArray, type SQL } from 'drizzle-orm'
import { announce, projects, renders, RUNNABLE } from '@dusk/store'
import { listPosts } from './posts'
import { idOf, type Problem } from './problem'
import { useServices } from './services'

/** Renders of a list that is not told how many it shows. */
const USUAL = 200

/**
 * Renders for the page that lists them: those that can still run first, then the newest; documents are left out.
 * @param count at most so many
 */
export async function listRenders(where?: SQL, count = USUAL) {
  const { db, storage } = useServices()
  const rows = await db
    .select({
      id: renders.id,
      projectId: renders.projectId,
      reelId: renders.reelId,
      projectName: projects.name,
      name: renders.name,
      settings: renders.settings,
      state: renders.state,
      progress: renders.progress,
      message: renders.message,
      report: renders.report,
      place: renders.place,
      createdAt: renders.createdAt,
      startedAt: renders.startedAt,
      endedAt: renders.endedAt,
    })
    .from(renders)
    .innerJoin(projects, eq(projects.id, renders.projectId))
    .where(where)
    .orderBy(desc(inArray(renders.state, [...RUNNABLE])), desc(renders.createdAt))
    .limit(count)
  // Those from before renders had pictures, sound alone and pictures in a ZIP have none.
  const pictured = await Promise.all(rows.map(({ id }) => storage.has(storage.path('renders', `${id}.jpg`))))
  const sent = await listPosts(rows.map(({ id }) => id))
  return rows.map((row, i) => ({
    ...row,
    pictured: pictured[i]!,
    posts: sent.filter(({ renderId }) => renderId === row.id),
  }))
}

export type RenderRow = Awaited<ReturnType<typeof listRenders>>[number]

/**
 * Takes a render out of work: whoever is at it stops.
 * @param from states in which that can be done
 * @param otherwise what is answered in any other
 */
export async function layAside(
  event: H3Event,
  patch: Partial<typeof renders.$inferInsert>,
  from: readonly RenderRow['state'][],
  otherwise: Problem,
): Promise<{ id: string }> {
  const id = idOf(event)
  const { db, sql } = useServices()
  const [row] = await db
    .update(renders)
    .set(patch)
    .where(and(eq(renders.id, id), inArray(renders.state, [...from])))
    .returning({ projectId: renders.projectId })
  if (!row) throw otherwise
  await announce(sql, { kind: 'cancel', renderId: id })
  await announce(sql, { kind: 'render', projectId: row.projectId, renderId: id })
  return { id }
}
