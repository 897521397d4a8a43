import { LRUCache } from 'lru-cache'
import { fileDetails, type FileDetails } from '@dusk/media'

/** Looking into a long film takes seconds: what was found stays for as long as it is looked at. */
const found = new LRUCache<string, Promise<FileDetails>>({ max: 50 })

/** What a finished file holds: its streams, bits a second, and loudness along its length. */
export default defineApi(async (event) => {
  const id = idOf(event)
  const { path, delivery } = await finishedRender(id)
  if (delivery.kind === 'pictures') return { streams: [], bitrate: [], loudness: null }
  const known = found.get(id) ?? fileDetails(path)
  found.set(id, known)
  known.catch(() => found.delete(id))
  return known
})
