import { existsSync } from 'node:fs'

const TYPES = { wav: 'audio/wav', jpg: 'image/jpeg', png: 'image/png' } as const

/** A file of the stock; with `?small`, a small picture of it, or the waveform of a sound. */
export default defineApi(async (event) => {
  const { item, path } = await stockFile(getRouterParam(event, 'name') ?? '')
  const small = 'small' in getQuery(event) && existsSync(`${path}.small`)
  const extension = item.name.split('.').at(-1) as keyof typeof TYPES
  const type = small && item.kind === 'sound' ? 'application/octet-stream' : TYPES[extension]
  return sendFile(event, small ? `${path}.small` : path, type, { lasting: true })
})
