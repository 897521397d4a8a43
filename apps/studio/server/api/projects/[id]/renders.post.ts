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
  const range = checkedRange(project, reelId, settings)
  const id = randomUUID()
  await db.transaction(async (tx) => {
    // Behind all that wait; there is room between two for one that is moved there.
    const place = Date.now() * 1000
    const row = { id, projectId, reelId, name, settings: { ...settings, range }, document: project, place }
    await tx.insert(renders).values({ ...row, state: 'waiting', heartbeatAt: new Date() })
    await queue.send('render', { id, attempt: 0 }, tx)
  })
  await announce(sql, { kind: 'render', projectId, renderId: id })
  setResponseStatus(event, 201)
  return { id }
})
