import { randomUUID } from 'node:crypto'
import { z } from 'zod'
import { canCopy, canFit, deliveryOf, HARDWARE_ENCODERS } from '@dusk/interchange'
import { idSchema, nameSchema } from '@dusk/timeline'
import { announce, RangeRefused, renderRange, renders, renderSettingsSchema } from '@dusk/store'

const schema = z.object({ reelId: idSchema, name: nameSchema, settings: renderSettingsSchema })

/** Asks for a render of a reel as the project is now. */
export default defineApi(async (event) => {
  const projectId = idOf(event)
  const { reelId, name, settings } = await bodyOf(event, schema)
  const { db, sql, log, queue } = useServices()
  const { project } = await log.read(projectId)
  if (!project.reels[reelId]) throw notFound('reel')
  if (settings.maxBytes && !canFit(deliveryOf(settings.format)))
    throw fieldProblem('settings.maxBytes', 'Films in H.264, H.265 and VP9 can be made to fit into a size, others not.')
  if (settings.maxBytes && settings.alpha)
    throw fieldProblem('settings.alpha', 'What is to fit into a size can’t be seen through.')
  if (settings.streamCopy && !canCopy(deliveryOf(settings.format)))
    throw fieldProblem('settings.streamCopy', 'Films in H.264 can take over shots as they are coded, others not.')
  if (settings.streamCopy && (settings.maxBytes || settings.bitrate))
    throw fieldProblem(
      'settings.streamCopy',
      'What keeps to a number of bits can’t take over shots as they are coded. Choose a quality instead.',
    )
  const { hardware } = settings
  if (hardware && HARDWARE_ENCODERS[hardware].picture !== deliveryOf(settings.format).picture)
    throw fieldProblem('settings.hardware', 'This encoder makes other pictures than the file is to hold.')
  if (hardware && settings.speed && settings.speed !== 'even')
    throw fieldProblem('settings.speed', 'A graphics chip has a speed of its own.')
  if (hardware && (settings.maxBytes || settings.streamCopy || settings.alpha))
    throw fieldProblem(
      'settings.hardware',
      'What fits into a size, takes shots over or can be seen through is encoded by the processors.',
    )
  const range = rangeOf(project, reelId, settings.range)
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

/** A refusal that names the field at fault. */
const fieldProblem = (path: string, message: string) =>
  new Problem(422, 'Invalid request', message, [{ path, message }])

function rangeOf(...args: Parameters<typeof renderRange>) {
  try {
    return renderRange(...args)
  } catch (error) {
    if (!(error instanceof RangeRefused)) throw error
    throw fieldProblem('settings.range', error.message)
  }
}
