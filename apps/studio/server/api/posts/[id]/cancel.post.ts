import { posts } from '@dusk/store'

/** Stops the sending of a film. What has arrived stays there, and `resume` goes on from it. */
export default defineApi(async (event) => {
  const id = idOf(event)
  const [row] = await useServices()
    .db.update(posts)
    .set({ state: 'cancelled', endedAt: new Date() })
    .where(postIn(id, ['waiting', 'working']))
    .returning({ renderId: posts.renderId })
  if (!row) throw new Problem(409, 'Already ended', 'This post has ended already.')
  await announcePost(row.renderId)
  return { id }
})
