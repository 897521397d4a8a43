import { FREEABLE } from '@dusk/store'
import { z } from 'zod'

const schema = z.object({ what: z.enum(FREEABLE), projectId: z.uuid().optional() })

/** Asks for room to be freed; a worker does it, and everyone hears how much it was. */
export default defineApi(async (event) => {
  const { what, projectId } = await bodyOf(event, schema)
  if ((what === 'project') !== (projectId !== undefined))
    throw new Problem(422, 'Invalid request', 'body: projectId — it goes with what = project, and with nothing else.', [
      { path: 'projectId', message: 'It goes with what = project, and with nothing else.' },
    ])
  await useServices().queue.send('tidy', { id: projectId ? `${what}:${projectId}` : what, attempt: Date.now() })
  setResponseStatus(event, 202)
  return { what }
})
