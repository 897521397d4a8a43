import { and, eq, inArray, type SQL } from 'drizzle-orm'
import { announce, posts, renders } from '@dusk/store'

/** Posts of these renders, the oldest first; their pictures are left out. */
export async function listPosts(renderIds: readonly string[]) {
  if (renderIds.length === 0) return []
  return useServices()
    .db.select({
      id: posts.id,
      renderId: posts.renderId,
      place: posts.place,
      words: posts.words,
      file: posts.file,
      state: posts.state,
      message: posts.message,
      sent: posts.sent,
      page: posts.page,
      createdAt: posts.createdAt,
      endedAt: posts.endedAt,
    })
    .from(posts)
    .where(inArray(posts.renderId, [...renderIds]))
    .orderBy(posts.createdAt)
}

export type PostRow = Awaited<ReturnType<typeof listPosts>>[number]

/** Tells pages that something about a render's posts is another now. */
export async function announcePost(renderId: string): Promise<void> {
  const { db, sql } = useServices()
  const [render] = await db.select({ projectId: renders.projectId }).from(renders).where(eq(renders.id, renderId))
  if (render) await announce(sql, { kind: 'render', projectId: render.projectId, renderId })
}

/** The condition that a post is this one and in one of these states. */
export const postIn = (id: string, states: readonly PostRow['state'][]): SQL | undefined =>
  and(eq(posts.id, id), inArray(posts.state, [...states]))
