const TYPES: Record<string, string> = { mp4: 'video/mp4', jpg: 'image/jpeg', png: 'image/png' }

/** A file that was worked out from sources. Its address never gives anything else. */
export default defineApi(async (event) => {
  const name = getRouterParam(event, 'file') ?? ''
  const path = await artefactFile(hashOf(event, 'key'), name)
  return sendFile(event, path, TYPES[name.split('.').at(-1)!] ?? 'application/octet-stream', { lasting: true })
})
