import { z } from 'zod'
import { takePicture } from '@dusk/media'

const schema = z.object({ at: z.coerce.number().min(0).max(90_000) })
const HEIGHT = 360

/** A picture out of a finished film, as a JPEG. */
export default defineApi(async (event) => {
  const { at } = queryOf(event, schema)
  const { path, delivery, report } = await finishedRender(idOf(event))
  if (delivery.kind !== 'film' || !report) throw notFound('picture of that render')
  setHeader(event, 'content-type', 'image/jpeg')
  setHeader(event, 'cache-control', 'private, max-age=86400, immutable')
  // There is no picture at the very end any more.
  return takePicture(path, Math.max(0, Math.min(at, report.seconds - 0.1)), HEIGHT)
})
