import { createHash } from 'node:crypto'
import { readdirSync } from 'node:fs'
import { Agent, request } from 'node:http'
import { join, relative } from 'node:path'
import { expect, test } from '@playwright/test'
import fc from 'fast-check'
import { parts, piece, Studio } from './tools/api'
import { colourBars, folder } from './tools/media'

/** Odd requests to each route; a thousand in the long tests. */
const EACH = process.env.DUSK_LONG ? 1000 : 6
const API = join(import.meta.dirname, '../apps/studio/server/api')
const METHODS = ['GET', 'HEAD', 'POST', 'PUT', 'PATCH', 'OPTIONS']

interface Route {
  /** Address with its variable parts in brackets. */
  path: string
  /** The method that its file is for, or `null` where it sees to that itself. */
  method: string | null
}

/** Every route of the API by the files that answer: one that is new is tried, too. */
function routes(): Route[] {
  const files = readdirSync(API, { recursive: true, withFileTypes: true }).filter((entry) => entry.isFile())
  return files.map((entry) => {
    const file = relative(API, join(entry.parentPath, entry.name)).replace(/\.ts$/, '')
    const [, path, method] = /^(.*?)(?:\.(get|post|patch|delete))?$/.exec(file)!
    return { path: `/api/${path!.replace(/\/?index$/, '')}`, method: method?.toUpperCase() ?? null }
  })
}

const ODD_WORDS = [
  ...['', ' ', '.', '..', '%', '%00', '%2e%2e%2f', '%ff', '%ed%a0%80', '-1', '0.5', '1e300', '99999999999999999999'],
  ...['null', 'NaN', '__proto__', 'constructor', "1'--", '<b>', '[]', '{}', 'a'.repeat(3000), '%F0%9F%8F%AE'],
]
const oddWord = fc.oneof(
  { weight: 5, arbitrary: fc.constantFrom(...ODD_WORDS) },
  {
    weight: 2,
    arbitrary: fc.string({ unit: 'binary', maxLength: 30 }).map((text) => encodeURIComponent(wellFormed(text))),
  },
  { weight: 2, arbitrary: fc.uuid() },
)
const wellFormed = (text: string) => text.toWellFormed()

const oddValue: fc.Arbitrary<unknown> = fc.oneof(
  fc.constantFrom<unknown>(
    null,
    true,
    '',
    -1,
    0,
    0.5,
    2 ** 31,
    2 ** 53,
    1e300,
    'x',
    '\u0000',
    '\ud800',
    'é'.repeat(4000),
  ),
  fc.constantFrom<unknown>([], {}, [[]], [null], { __proto__: null, constructor: 1 }, Array(2000).fill(0)),
  fc.jsonValue({ maxDepth: 3 }),
)
/** Names that bodies and addresses have somewhere. */
const FIELDS = [
  ...['name', 'format', 'width', 'height', 'rate', 'num', 'den', 'windowId', 'edits', 'id', 'command', 'type'],
  ...[
    'reelId',
    'settings',
    'range',
    'quality',
    'after',
    'before',
    'seq',
    'what',
    'projectId',
    'fromProject',
    'assetIds',
  ],
  ...[
    'frame',
    'words',
    'thumbnail',
    'changes',
    'path',
    'value',
    'passphrase',
    'look',
    'lacking',
    'at',
    'from',
    'count',
  ],
  ...['longest', 'download', 'small', 'as'],
]
const oddBody = fc.oneof(
  {
    weight: 6,
    arbitrary: fc.dictionary(fc.constantFrom(...FIELDS), oddValue, { maxKeys: 6 }).map((body) => JSON.stringify(body)),
  },
  { weight: 2, arbitrary: oddValue.map((value) => JSON.stringify(value)) },
  {
    weight: 2,
    arbitrary: fc.constantFrom('', '{', '"', 'null', '['.repeat(20_000), '{"a":'.repeat(5000), 'RIFF\0\0\0\0WAVE'),
  },
  { weight: 1, arbitrary: fc.uint8Array({ maxLength: 400 }).map((bytes) => Buffer.from(bytes)) },
)
const oddHeaders = fc.dictionary(
  fc.constantFrom(
    ...['range', 'content-type', 'if-none-match', 'if-modified-since', 'upload-length', 'upload-offset', 'accept'],
    ...['upload-metadata', 'tus-resumable', 'content-encoding', 'x-http-method-override', 'cookie'],
  ),
  fc.constantFrom(
    ...['', 'bytes=5-2', 'bytes=-0', 'bytes=0-0,2-3', 'bytes=99999999999999999999-', 'bytes=x', '-1', 'NaN', '1e300'],
    ...['*', 'application/json', 'application/offset+octet-stream', 'text/plain; charset=x', '1.0.0', 'fileName !!'],
    ...['assetId eA==,fileName 4pyT', 'gzip', 'null', 'DELETE', 'dusk=1; dusk=2', 'x'.repeat(2000)],
  ),
  { maxKeys: 4 },
)

interface Sent {
  method: string
  path: string
  headers: Record<string, string>
  body: string | Buffer | null
}

/** Things that are there, so that requests come past the first check. */
type Known = Record<string, readonly string[]>

/** Odd requests to a route. */
function oddRequests(route: Route, known: Known): fc.Arbitrary<Sent> {
  const filled = route.path.split('/').map((part) => {
    const name = /^\[(?:\.\.\.)?(\w+)\]$/.exec(part)?.[1]
    if (!name) return fc.constant(part)
    // What is there stays there, for the routes after this one.
    const real = route.method === 'DELETE' ? [] : (known[`${route.path}:${name}`] ?? known[name] ?? [])
    return real.length > 0
      ? fc.oneof({ weight: 3, arbitrary: fc.constantFrom(...real) }, { weight: 2, arbitrary: oddWord })
      : oddWord
  })
  const query = fc.array(fc.tuple(fc.constantFrom(...FIELDS), oddWord), { maxLength: 3 })
  return fc.record({
    method: fc.oneof({ weight: 8, arbitrary: fc.constant(route.method ?? 'GET') }, fc.constantFrom(...METHODS)),
    path: fc
      .tuple(fc.tuple(...filled), query)
      .map(([way, words]) => encodeURI(way.join('/')).replaceAll('%25', '%') + asked(words)),
    headers: oddHeaders,
    body: fc.option(oddBody, { freq: 4 }),
  })
}

const asked = (words: [string, string][]) =>
  words.length > 0 ? `?${words.map(([name, value]) => `${name}=${encodeURI(value)}`).join('&')}` : ''

const agent = new Agent({ keepAlive: true, maxSockets: 8 })

/** Sends a request as it is. @returns status, kind and beginning of the answer; status 0 where it was cut off */
function send(
  origin: string,
  sent: Sent,
  own: Record<string, string>,
): Promise<{ status: number; type: string; text: string }> {
  const { hostname, port } = new URL(origin)
  return new Promise((resolve, reject) => {
    const body = ['GET', 'HEAD'].includes(sent.method) ? '' : (sent.body ?? '')
    // Said for every method: else what follows a DELETE would be taken for another request.
    const headers = { ...sent.headers, ...own, 'content-length': Buffer.byteLength(body) }
    const asking = request({ hostname, port, agent, method: sent.method, path: sent.path, headers, timeout: 60_000 })
    asking.on('response', (answer) => {
      let text = ''
      answer.on('data', (part: Buffer) => (text.length < 4000 ? (text += part.toString('latin1')) : null))
      answer.on('end', () =>
        resolve({ status: answer.statusCode ?? 0, type: String(answer.headers['content-type'] ?? ''), text }),
      )
      answer.on('error', () => resolve({ status: answer.statusCode ?? 0, type: '', text }))
    })
    asking.on('timeout', () => asking.destroy(new Error(`no answer within a minute: ${sent.method} ${sent.path}`)))
    asking.on('error', (error: NodeJS.ErrnoException) =>
      error.code === 'ECONNRESET' || error.code === 'EPIPE'
        ? resolve({ status: 0, type: '', text: '' })
        : reject(error),
    )
    asking.end(body)
  })
}

test('whatever is sent to whichever route is answered without a failure of the studio', async ({ baseURL }) => {
  test.setTimeout(3_600_000)
  const studio = new Studio(baseURL!)
  const id = await studio.createProject('Odd requests', 320, 180, { num: 25, den: 1 })
  const dir = folder()
  const bars = await studio.upload(id, colourBars(join(dir, 'bars.mp4')))
  const state = await studio.ready(id, [bars])
  const { reelId, track } = parts(state)
  await studio.edit(id, {
    type: 'place',
    mode: 'free',
    pieces: [piece(track('Picture 1'), bars, null, 0, 1)],
  })
  const settings = { width: 320, height: 180, rate: { num: 25, den: 1 }, quality: 'draft', range: null, sound: true }
  const render = await studio.render(id, reelId, 'Odd', settings)
  type Sources = { sources: Record<string, { proxyUrl?: string } & Record<string, unknown>> }
  const text = JSON.stringify((await studio.call<Sources>(`/projects/${id}/sources`)).sources)
  const hashes = [...new Set(text.match(/media\/[0-9a-f]{64}/g) ?? [])].map((found) => found.slice(6))
  const keys = [...new Set(text.match(/artefacts\/[0-9a-f]{64}/g) ?? [])].map((found) => found.slice(10))
  expect(hashes.length + keys.length).toBeGreaterThan(0)
  const known: Known = {
    id: [id],
    hash: [...hashes, createHash('sha256').update('nothing').digest('hex')],
    key: keys,
    edit: ['1', '2'],
    n: ['0'],
    '/api/media/[hash]/[file]:file': ['original', 'frames', 'still', 'planes'],
    '/api/artefacts/[key]/[file]:file': ['proxy.mp4', 'strip.jpg', 'sound.pcm'],
    // What somebody set is theirs: only settings that odd values never fit.
    '/api/settings/[key]:key': ['purposes', 'titles'],
  }
  for (const { path } of routes()) {
    if (path.startsWith('/api/renders/')) known[`${path}:id`] = [render.id]
    if (/^\/api\/(assets|posts)\/|\/copy$/.test(path)) known[`${path}:id`] = []
  }

  const faults: string[] = []
  const seen = new Map<string, number>()
  const all = routes()
  expect(all.length).toBeGreaterThan(50)
  for (const [at, route] of all.entries()) {
    const requests = fc.sample(oddRequests(route, known), { numRuns: EACH, seed: 20261127 + at })
    for (let i = 0; i < requests.length; i += 6)
      await Promise.all(
        requests.slice(i, i + 6).map(async (sent) => {
          const { status, type, text } = await send(baseURL!, sent, studio.headers)
          const kind = `${Math.floor(status / 100)}xx`
          seen.set(kind, (seen.get(kind) ?? 0) + 1)
          const said = `${JSON.stringify(sent.headers).slice(0, 200)} ${String(sent.body).slice(0, 200)}`
          const what = `${sent.method} ${sent.path.slice(0, 200)} ${said}`
          if (status >= 500 && status !== 501) faults.push(`${status}: ${what} — ${text.slice(0, 200)}`)
          else if (status >= 400 && sent.method !== 'HEAD' && !/json/.test(type) && !/uploads/.test(sent.path))
            faults.push(`${status} without words: ${what} — ${type} ${text.slice(0, 200)}`)
        }),
      )
  }
  console.log(`      ${all.length} routes: ${[...seen].map(([kind, count]) => `${kind} ${count}`).join(', ')}`)
  expect(faults.slice(0, 20)).toEqual([])
  expect(seen.get('4xx')).toBeGreaterThan(all.length)
  expect(seen.get('2xx')).toBeGreaterThan(all.length / 2)
  // It goes on as if nothing had been.
  expect(await studio.call('/health')).toMatchObject({ ok: true })
})
