import { z } from 'zod'
import { commandSchema } from '@dusk/timeline'

const schema = z.object({
  windowId: z.string().min(1).max(100),
  edits: z
    .array(z.object({ id: z.uuid(), command: commandSchema }))
    .min(1)
    .max(500),
})

/** Carries out commands. Each is logged with a number, or refused with its reason; the answer says which. */
export default defineApi(async (event) => {
  const { windowId, edits } = await bodyOf(event, schema)
  return useServices().log.append(idOf(event), windowId, edits)
})
