import { randomUUID } from 'node:crypto'
import { z } from 'zod'
import { idSchema, nameSchema } from '@dusk/timeline'
import { announce, renders, renderSettingsSchema } from '@dusk/store'

const schema = z.object({ reelId: idSchema, name: nameSchema, settings: renderSettingsSchema })

/** Asks for a render of a reel as the project is now. */
export default defineApi(async (event) => {
  const projectId = idOf(event)
  const { reelId, name, settings } = await bodyOf(event, schema)
  const { db, sql, log, queue } = useServices()
  const { project } = await log.read(projectId)
  if (!project.reels[reelId]) throw notFound('reel')
  if (settings.range && settings.range.to <= settings.range.from)
    throw new Problem(422, 'Invalid request', 'The range ends before it begins.', [
      { path: 'settings.range', message: 'to must be after from' },
    ])
  const id = randomUUID()
  await db.transaction(async (tx) => {
    const row = { id, projectId, reelId, name, settings, document: project }
    await tx.insert(renders).values({ ...row, state: 'waiting', heartbeatAt: new Date() })
    await queue.send('render', { id, attempt: 0 }, tx)
  })
  await announce(sql, { kind: 'render', projectId, renderId: id })
  setResponseStatus(event, 201)
  return { id }
})
