import { takeStrip } from '@dusk/media'

const STRIP = { count: 8, height: 90 }

/** Pictures along a finished film, in one row. */
export default defineApi(async (event) => {
  const { path, delivery, report } = await finishedRender(idOf(event))
  if (delivery.kind !== 'film' || !report) throw notFound('strip of that render')
  setHeader(event, 'content-type', 'image/jpeg')
  setHeader(event, 'cache-control', 'private, max-age=86400, immutable')
  return takeStrip(path, report.seconds, STRIP)
})
