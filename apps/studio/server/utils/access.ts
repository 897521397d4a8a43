import { createHash, timingSafeEqual } from 'node:crypto'
import { parse } from 'cookie-es'
import { unsealSession, updateSession, type H3Event, type SessionConfig } from 'h3'
import { LRUCache } from 'lru-cache'
import { LinkBook } from './linkBook'

/** How long a browser that was let in stays so, in seconds. */
const STAY = 180 * 24 * 3600
const LOOPBACK = new Set(['127.0.0.1', 'localhost', '[::1]'])

/** Who is let into this studio, as `./dusk start` says it in the environment. */
interface AccessSettings {
  /** The data folder's key: whoever can read it may do everything. At least 32 characters. */
  key: string
  /** The passphrase as it is kept, where the studio is open to the network. */
  passphrase: string | null
  /** The studio speaks TLS. */
  secure: boolean
  /** Names under which it answers, without the port, in lower case; those that it was given come first. */
  hosts: ReadonlySet<string>
  session: SessionConfig & { name: string }
}

/** How somebody came in. A passphrase's stamp ends the stay once the passphrase is another one. */
type Entry = { by: 'link' } | { by: 'passphrase'; stamp: string }

const stampOf = (passphrase: string) => createHash('sha256').update(passphrase).digest('base64url').slice(0, 16)

/** @throws {Error} in words when the key is missing */
function readSettings(env: NodeJS.ProcessEnv): AccessSettings {
  const key = env.DUSK_KEY ?? ''
  if (key.length < 32) throw new Error('DUSK_KEY must be set to 32 characters or more. ./dusk start does it.')
  const secure = Boolean(env.NITRO_SSL_CERT && env.NITRO_SSL_KEY)
  const named = (env.DUSK_HOSTS ?? '').split(',').filter(Boolean)
  return {
    key,
    passphrase: env.DUSK_PASSPHRASE || null,
    secure,
    hosts: new Set([...named.map((name) => name.toLowerCase()), ...LOOPBACK]),
    session: {
      password: key,
      // A browser sends its cookies to every port of a machine: two studios must not take each other's away.
      name: `dusk-reel-${env.NITRO_PORT ?? env.PORT ?? ''}`,
      maxAge: STAY,
      cookie: { httpOnly: true, sameSite: 'lax', secure, path: '/' },
    },
  }
}

let settings: AccessSettings | null = null
/** Settings of this process; read at first use. */
export const accessSettings = () => (settings ??= readSettings(process.env))

/** Links of this process. */
export const links = new LinkBook()

/** Cookies that were unsealed lately: a page asks for dozens of files at once. */
const lately = new LRUCache<string, Entry>({ max: 100, ttl: 60_000 })

const equal = (a: string, b: string) =>
  timingSafeEqual(createHash('sha256').update(a).digest(), createHash('sha256').update(b).digest())

/** Whether a request carries the data folder's key, as our own programs do. */
export function hasKey(headers: Headers): boolean {
  const [, token] = /^Bearer (\S+)$/.exec(headers.get('authorization') ?? '') ?? []
  return token !== undefined && equal(token, accessSettings().key)
}

async function entryOf(headers: Headers): Promise<Entry | null> {
  const { session } = accessSettings()
  const sealed = parse(headers.get('cookie') ?? '')[session.name]
  if (!sealed) return null
  const known = lately.get(sealed)
  if (known) return known
  try {
    const entry = (await unsealSession({} as H3Event, session, sealed)).data as Entry | undefined
    if (!entry?.by) return null
    lately.set(sealed, entry)
    return entry
  } catch {
    // Sealed with another key, changed, or too old.
    return null
  }
}

/** Whether whoever asks was let in: by a link, by the passphrase that holds today, or with the key. */
export async function mayEnter(headers: Headers): Promise<boolean> {
  if (hasKey(headers)) return true
  const entry = await entryOf(headers)
  if (!entry) return false
  const { passphrase } = accessSettings()
  return entry.by === 'link' || (passphrase !== null && entry.stamp === stampOf(passphrase))
}

/** Lets the browser that asks in from now on. */
export async function letIn(event: H3Event, by: Entry['by']): Promise<void> {
  const { session, passphrase } = accessSettings()
  const entry: Entry = by === 'link' ? { by } : { by, stamp: stampOf(passphrase!) }
  await updateSession<{ by: Entry['by']; stamp?: string }>(event, session, entry)
}

/**
 * A foreign host name (DNS rebinding) and a foreign origin (another site's page) are turned away before the request is
 * looked at.
 * @param method of the request; a WebSocket's is GET
 */
export function foreign(method: string, headers: Headers): Problem | null {
  const { hosts, secure } = accessSettings()
  const host = headers.get('host') ?? ''
  if (!hosts.has(host.replace(/:\d+$/, '').toLowerCase()))
    return new Problem(
      421,
      'Foreign name',
      `Dusk Reel does not answer under this name. Open it as ${[...hosts].slice(0, 2).join(' or ')}.`,
    )
  const origin = headers.get('origin')
  const site = headers.get('sec-fetch-site')
  const reads = method === 'GET' || method === 'HEAD'
  if (
    origin
      ? origin !== `${secure ? 'https' : 'http'}://${host}`
      : !reads && site && !['same-origin', 'none'].includes(site)
  )
    return new Problem(403, 'Foreign page', 'Another site’s page asked for this; that is not allowed.')
  return null
}
