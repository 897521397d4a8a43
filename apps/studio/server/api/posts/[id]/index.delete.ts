import { posts } from '@dusk/store'

/** Forgets a post that has ended. What is posted stays where it is. */
export default defineApi(async (event) => {
  const id = idOf(event)
  const [row] = await useServices()
    .db.delete(posts)
    .where(postIn(id, ['ready', 'failed', 'cancelled']))
    .returning({ renderId: posts.renderId })
  if (!row) throw notFound('post that has ended')
  await announcePost(row.renderId)
  return { id }
})
