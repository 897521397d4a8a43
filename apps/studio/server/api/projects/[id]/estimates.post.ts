import { randomUUID } from 'node:crypto'
import { z } from 'zod'
import { canFit, deliveryOf } from '@dusk/interchange'
import { idSchema } from '@dusk/timeline'
import { estimates, renderSettingsSchema } from '@dusk/store'

const schema = z.object({ reelId: idSchema, settings: renderSettingsSchema })

/** Asks what a render of a reel as the project is now would come to. */
export default defineApi(async (event) => {
  const projectId = idOf(event)
  const { reelId, settings } = await bodyOf(event, schema)
  const { db, log, queue } = useServices()
  const { project } = await log.read(projectId)
  if (!project.reels[reelId]) throw notFound('reel')
  const delivery = deliveryOf(settings.format)
  if (delivery.kind === 'still' || delivery.kind === 'loop' || (settings.maxBytes && canFit(delivery)))
    throw new Problem(
      422,
      'Not told by parts',
      'What this comes to is only known when all of it is there. Films, pictures in a ZIP and sound can be asked for.',
    )
  const range = checkedRange(project, reelId, settings)
  const id = randomUUID()
  await db.transaction(async (tx) => {
    await tx.insert(estimates).values({ id, projectId, reelId, settings: { ...settings, range }, document: project })
    await queue.send('estimate', { id, attempt: 0 }, tx)
  })
  setResponseStatus(event, 201)
  return { id }
})
