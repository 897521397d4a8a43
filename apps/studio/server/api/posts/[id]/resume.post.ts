import { sql as text } from 'drizzle-orm'
import { posts } from '@dusk/store'

/** Goes on with a post that was stopped, or tries one again that failed, from where it came to. */
export default defineApi(async (event) => {
  const id = idOf(event)
  const { db, queue } = useServices()
  const renderId = await db.transaction(async (tx) => {
    const [row] = await tx
      .update(posts)
      .set({
        ...{ state: 'waiting' as const, message: null, endedAt: null, heartbeatAt: new Date() },
        attempt: text`${posts.attempt} + 1`,
      })
      .where(postIn(id, ['failed', 'cancelled']))
      .returning({ renderId: posts.renderId, attempt: posts.attempt })
    if (!row) throw new Problem(409, 'Not at rest', 'This post is under way, or done: there is nothing to go on with.')
    await queue.send('post', { id, attempt: row.attempt }, tx)
    return row.renderId
  })
  await announcePost(renderId)
  return { id }
})
