/** Files of a source: `original`, `proxy`, `still`, `still-full`, `strip`, `sound-N` and `wave-N`. */
export default defineApi(async (event) => {
  const { asset, media, paths } = await assetFile(idOf(event))
  const name = getRouterParam(event, 'file') ?? ''
  const lasting = true
  const stream = /^(sound|wave)-(\d{1,2})$/.exec(name)
  if (stream) {
    const n = Number(stream[2])
    if (!media.facts.sounds[n]) throw notFound('sound stream')
    return sendFile(event, stream[1] === 'sound' ? paths.sound(n) : paths.waveform(n), 'application/octet-stream', {
      lasting,
    })
  }
  switch (name) {
    case 'original':
      return sendFile(event, paths.original, 'application/octet-stream', { lasting, download: asset.fileName })
    case 'proxy':
      return sendFile(event, paths.proxy, 'video/mp4', { lasting })
    case 'still':
      return sendFile(event, paths.stillProxy, 'application/octet-stream', { lasting })
    case 'still-full':
      return sendFile(event, paths.stillFull, 'application/octet-stream', { lasting })
    case 'strip':
      if (!media.facts.strip) throw notFound('film strip')
      return sendFile(
        event,
        paths.strip(media.facts.strip.type),
        media.facts.strip.type === 'png' ? 'image/png' : 'image/jpeg',
        { lasting },
      )
  }
  throw notFound('file')
})
