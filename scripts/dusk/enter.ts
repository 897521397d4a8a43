import type { StudioClient } from './client'

/** What Playwright starts a browser with that was let in: its `storageState`. */
export async function browserState(client: StudioClient) {
  const { path } = await client.link()
  const response = await fetch(client.origin + path, { redirect: 'manual', headers: { connection: 'close' } })
  const [pair = ''] = (response.headers.get('set-cookie') ?? '').split(';')
  const [name, value] = [pair.slice(0, pair.indexOf('=')), pair.slice(pair.indexOf('=') + 1)]
  const cookie = { name, value, domain: '127.0.0.1', path: '/', expires: -1, httpOnly: true, secure: false }
  return { cookies: [{ ...cookie, sameSite: 'Lax' as const }], origins: [] }
}
