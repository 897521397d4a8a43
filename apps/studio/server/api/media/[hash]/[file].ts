import { stillToPng } from '@dusk/media/still'

/** A stored file: `original`, `still` (its picture at full size as PNG), `frames` (its frame table), `planes`. */
export default defineApi(async (event) => {
  const hash = hashOf(event)
  const { metadata } = await storedFile(hash)
  const { storage } = useServices()
  const path = storage.original(hash)
  switch (getRouterParam(event, 'file')) {
    case 'original':
      return sendFile(event, path, 'application/octet-stream', { lasting: true })
    case 'frames':
      if (!metadata.table) throw notFound('frame table')
      return metadata.table
    case 'planes':
      if (metadata.kind !== 'video') throw notFound('frames')
      await storage.fetch(path)
      return sendPlanes(event, path, metadata)
    case 'still':
      if (!metadata.stillFormat) throw notFound('still')
      await storage.fetch(path)
      setHeaders(event, { 'content-type': 'image/png', 'cache-control': 'private, max-age=31536000, immutable' })
      return stillToPng(path, metadata.stillFormat)
  }
  throw notFound('file')
})
