// @vitest-environment node
import { createApp, createRouter, toWebHandler } from 'h3'
import * as h3 from 'h3'
import { beforeEach, describe, expect, it, vi } from 'vitest'
import { placeWithin } from '~/features/ui/placeWithin'
import { LinkBook, LINK_MINUTES } from '../server/utils/linkBook'
import { passphraseFits, sealPassphrase } from '../server/utils/passphrase'

const KEY = 'k'.repeat(43)

/** The guard with a page and a route behind it, in a process with this environment. */
async function studio(env: Record<string, string>) {
  vi.resetModules()
  for (const [name, value] of Object.entries({ DUSK_KEY: KEY, NITRO_PORT: '4870', ...env })) vi.stubEnv(name, value)
  // The server's functions that its framework gives every file.
  for (const name of [
    'defineEventHandler',
    'getHeader',
    'getRequestIP',
    'getRequestURL',
    'getRouterParam',
    'readRawBody',
    'sendRedirect',
    'setHeader',
    'setResponseStatus',
  ] as const)
    vi.stubGlobal(name, h3[name])
  const problem = await import('../server/utils/problem')
  const doors = await import('../server/utils/doors')
  const access = await import('../server/utils/access')
  for (const [name, value] of Object.entries({
    ...problem,
    ...doors,
    ...access,
    ...(await import('../server/utils/passphrase')),
    ...(await import('../server/utils/linkBook')),
  }))
    vi.stubGlobal(name, value)
  const handler = async (path: string) => ((await import(path)) as { default: h3.EventHandler }).default
  const app = createApp()
  app.use(await handler('../server/middleware/guard.ts'))
  app.use(
    createRouter()
      .get('/api/access', await handler('../server/api/access/index.get.ts'))
      .post('/api/access', await handler('../server/api/access/index.post.ts'))
      .post('/api/access/links', await handler('../server/api/access/links.post.ts'))
      .get('/open/:token', await handler('../server/routes/open/[token].get.ts'))
      .get(
        '/api/projects',
        problem.defineApi(() => ({ projects: [] })),
      )
      // A route that the guard lets everybody to, and that does not say itself that it is open.
      .get(
        '/api/health',
        problem.defineApi(() => ({ ok: true })),
      )
      .get(
        '/**',
        h3.defineEventHandler(() => 'a page'),
      ),
  )
  const web = toWebHandler(app)
  return (path: string, init: RequestInit & { headers?: Record<string, string> } = {}) =>
    web(new Request(`http://127.0.0.1:4870${path}`, { ...init, headers: { host: '127.0.0.1:4870', ...init.headers } }))
}

const bearer = { authorization: `Bearer ${KEY}` }
const cookieOf = (response: Response) => response.headers.get('set-cookie')!.split(';')[0]!

beforeEach(() => {
  vi.unstubAllEnvs()
})

describe('addresses', () => {
  it('mean one thing to whoever reads them, or are refused', async () => {
    const { isStraight } = await import('../server/utils/doors')
    const straight = [
      '/',
      '/enter',
      '/enter?to=%2F..%2Fx',
      '/api/uploads/1-2_3',
      '/a/',
      '/na%C3%AFve%20film',
      '/a..b/.c',
    ]
    expect(straight.filter((path) => !isStraight(path))).toEqual([])
    const odd = ['', '*', 'enter', 'http://127.0.0.1/enter', '//enter', '/a//b', '/api/uploads/../../enter', '/./enter']
    odd.push(
      '/enter/..',
      '/enter/.',
      '/enter/%2e%2e/x',
      '/enter/.%2E/x',
      '/enter%2f..',
      '/enter%5c..',
      '/a\\b',
      '/%65nter',
    )
    odd.push(
      '/enter%3f',
      '/enter%23',
      '/enter#x',
      '/enter%00',
      '/enter%0a',
      '/%ff',
      '/a%',
      '/a%2',
      '/a%252e',
      '/ä',
      '/a b',
      '/a[b',
    )
    expect(odd.filter((path) => isStraight(path))).toEqual([])
    // Long ones are judged at once.
    expect(isStraight(`/${'a/'.repeat(50_000)}/`)).toBe(false)
  })

  it('are closed but for those that are named, by their method', async () => {
    const { isOpen } = await import('../server/utils/doors')
    expect(isOpen('GET', '/api/health')).toBe(true)
    for (const [method, path] of [
      ['POST', '/api/health'],
      ['GET', '/api/access/links'],
      ['POST', '/api/access/links'],
      ['DELETE', '/api/access'],
      ['POST', '/enter'],
      ['GET', '/api/uploads'],
      ['GET', '/open/x/y'],
      ['GET', '/'],
    ])
      expect([method, path, isOpen(method!, path!)]).toEqual([method, path, false])
  })

  it('that are open answer only where the route says so itself', async () => {
    const ask = await studio({})
    expect((await ask('/api/health')).status).toBe(401)
    expect((await ask('/api/health', { headers: bearer })).status).toBe(200)
  })
})

describe('who is let in', () => {
  it('is whoever opened the link, which works once; nobody else', async () => {
    const ask = await studio({})
    const turned = await ask('/projects/1?x=2')
    expect([turned.status, turned.headers.get('location')]).toEqual([302, '/enter?to=%2Fprojects%2F1%3Fx%3D2'])
    const refused = await ask('/api/projects')
    expect(refused.status).toBe(401)
    expect(((await refused.json()) as { detail: string }).detail).toContain('./dusk open')
    expect((await ask('/api/access/links', { method: 'POST' })).status).toBe(401)
    const { path } = (await (await ask('/api/access/links', { method: 'POST', headers: bearer })).json()) as {
      path: string
    }
    const opened = await ask(path)
    expect(opened.headers.get('location')).toBe('/')
    expect(opened.headers.get('set-cookie')).toMatch(/^dusk-reel-4870=.*HttpOnly/)
    const cookie = cookieOf(opened)
    expect(await (await ask('/projects/1', { headers: { cookie } })).text()).toBe('a page')
    expect((await ask('/api/projects', { headers: { cookie } })).status).toBe(200)
    // It makes no links for others: that takes the key.
    expect((await ask('/api/access/links', { method: 'POST', headers: { cookie } })).status).toBe(403)
    const again = await ask(path)
    expect([again.headers.get('location'), again.headers.get('set-cookie')]).toEqual(['/enter?link=old', null])
    expect((await ask('/api/projects', { headers: { cookie: `${cookie.slice(0, -3)}abc` } })).status).toBe(401)
    expect((await ask('/api/projects', { headers: { authorization: `Bearer ${KEY}x` } })).status).toBe(401)
  })

  it('is told by the page for it, which needs no key itself', async () => {
    const ask = await studio({})
    expect(await (await ask('/enter?to=%2Frenders')).text()).toBe('a page')
    expect(await (await ask('/api/access')).json()).toEqual({ entered: false, passphrase: false })
    const tried = await ask('/api/access', { method: 'POST', body: '{"passphrase":"lantern"}' })
    expect(tried.status).toBe(404)
  })

  it('is whoever knows the passphrase, until it is another one; not tried often', async () => {
    const ask = await studio({ DUSK_PASSPHRASE: await sealPassphrase('nine lanterns on the quay') })
    const say = (passphrase: string) => ask('/api/access', { method: 'POST', body: JSON.stringify({ passphrase }) })
    const right = await say('nine lanterns on the quay')
    const cookie = cookieOf(right)
    expect((await ask('/api/projects', { headers: { cookie } })).status).toBe(200)
    expect((await say('ten lanterns on the quay')).status).toBe(401)
    const answers: number[] = []
    for (let i = 0; i < 9; i++) answers.push((await say('a guess')).status)
    expect(answers.filter((status) => status === 429).length).toBeGreaterThan(0)
    const late = await say('nine lanterns on the quay')
    expect(late.status).toBe(429)
    expect(Number(late.headers.get('retry-after'))).toBeGreaterThan(60)
    const changed = await studio({ DUSK_PASSPHRASE: await sealPassphrase('a new one of many words') })
    expect((await changed('/api/projects', { headers: { cookie } })).status).toBe(401)
  })

  it('never is another site’s page, or one under a foreign name', async () => {
    const ask = await studio({ DUSK_HOSTS: 'quay.example' })
    const foreignName = await ask('/api/projects', { headers: { ...bearer, host: 'elsewhere.example' } })
    expect(foreignName.status).toBe(421)
    expect(await foreignName.json()).toMatchObject({ detail: expect.stringContaining('quay.example') })
    const page = await ask('/', { headers: { ...bearer, host: 'elsewhere.example' } })
    expect(await page.text()).toContain('quay.example')
    expect((await ask('/api/projects', { headers: { ...bearer, host: 'Quay.example:4870' } })).status).toBe(200)
    for (const origin of ['http://elsewhere.example', 'http://127.0.0.1:9999', 'https://127.0.0.1:4870', 'null'])
      expect([origin, (await ask('/api/projects', { headers: { ...bearer, origin } })).status]).toEqual([origin, 403])
    const form = { method: 'POST', headers: { ...bearer, 'sec-fetch-site': 'same-site' } }
    expect((await ask('/api/access/links', form)).status).toBe(403)
  })

  it('is nobody where the key is missing', async () => {
    const ask = await studio({ DUSK_KEY: '' })
    expect((await ask('/api/projects')).status).toBe(500)
  })
})

describe('links', () => {
  it('end after a while', () => {
    const book = new LinkBook()
    const [a, b] = [book.issue(0), book.issue(0)]
    expect(book.take(a, LINK_MINUTES * 60_000 - 1)).toBe(true)
    expect(book.take(b, LINK_MINUTES * 60_000 + 1)).toBe(false)
    expect(book.take('', 0)).toBe(false)
  })

  it('are not kept without end', () => {
    const book = new LinkBook()
    const first = book.issue(0)
    for (let i = 0; i < 150; i++) book.issue(0)
    expect(book.take(first, 1)).toBe(false)
  })
})

describe('a passphrase', () => {
  it('fits whichever way its letters are coded, and no other does', async () => {
    const kept = await sealPassphrase('f\u00eate au quai, minuit')
    expect(kept).not.toContain('quai')
    expect(await passphraseFits('fe\u0302te au quai, minuit', kept)).toBe(true)
    expect(await passphraseFits('fete au quai, minuit', kept)).toBe(false)
    expect(await passphraseFits('anything', 'broken')).toBe(false)
  })
})

describe('where a browser goes once it is let in', () => {
  it('is a page of this studio', () => {
    expect(placeWithin('/projects/1?x=2')).toBe('/projects/1?x=2')
    for (const asked of [
      '//elsewhere.example/x',
      '/\\elsewhere.example',
      'https://elsewhere.example',
      '/enter',
      null,
      '',
    ])
      expect(placeWithin(asked)).toBe('/')
  })
})
