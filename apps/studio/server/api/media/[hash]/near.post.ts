import { z } from 'zod'
import { sayWaiting, WAITING_FILE } from '@dusk/media'
import { artefact, lookAt } from '@dusk/store'
import { frameCount } from '@dusk/timeline'

const schema = z.object({
  /** Number of the frame that is looked at. */
  frame: z.int().min(0),
})

/** Says which frame of a moving picture is looked at while its proxy is made: the piece that holds it is made next. */
export default defineApi(async (event) => {
  const hash = hashOf(event)
  const { frame } = await bodyOf(event, schema)
  const { metadata } = await storedFile(hash)
  if (!metadata.table) throw notFound('frame')
  const { db, queue, storage } = useServices()
  await sayWaiting(storage.path(WAITING_FILE))
  await lookAt(db, queue, artefact('proxy', hash).key, Math.min(frame, frameCount(metadata.table) - 1))
  return { frame }
})
