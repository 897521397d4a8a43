import { rm } from 'node:fs/promises'
import { z } from 'zod'
import { encodeSound, SOUND_FILES, ToolError } from '@dusk/media'

const schema = z.object({ as: z.enum(['flac', 'mp3']) })

/** A WAV file that is sent comes back as a FLAC or MP3 file. */
export default defineApi(async (event) => {
  const { as } = queryOf(event, schema)
  const { storage } = useServices()
  const out = await storage.scratch(`.${as}`)
  const gone = new AbortController()
  event.node.res.once('close', () => gone.abort())
  try {
    await encodeSound(event.node.req, as, out, { signal: gone.signal })
    await sendFile(event, out, SOUND_FILES[as].type)
  } catch (error) {
    if (gone.signal.aborted) return
    if (error instanceof ToolError)
      throw new Problem(422, 'Not a WAV file', 'What was sent is not a WAV file of sound.')
    throw error
  } finally {
    await rm(out, { force: true })
  }
})
