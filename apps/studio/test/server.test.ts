// @vitest-environment node
import { mkdtempSync, readdirSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { Readable } from 'node:stream'
import { FileStore } from '@tus/file-store'
import { Upload } from '@tus/server'
import { afterAll, afterEach, beforeAll, describe, expect, it, vi } from 'vitest'
import * as h3 from 'h3'
import { z } from 'zod'

// The server's functions that its framework gives every file.
for (const name of [
  'defineEventHandler',
  'getHeader',
  'getQuery',
  'getRouterParam',
  'readRawBody',
  'sendStream',
  'setHeader',
  'setHeaders',
  'setResponseStatus',
] as const)
  vi.stubGlobal(name, h3[name])
const { bodyOf, defineApi, idOf, notFound, Problem, queryOf } = await import('../server/utils/problem')
vi.stubGlobal('notFound', notFound)
const { sendFile } = await import('../server/utils/sendFile')
const { settingKey, settingKinds } = await import('../server/utils/settings')

/** Asks a route by itself. */
async function ask(
  path: string,
  handler: h3.EventHandler,
  init: RequestInit & { at?: string } = {},
): Promise<Response> {
  const app = h3.createApp()
  app.use(h3.defineEventHandler((event) => void (event.context.letIn = true)))
  app.use(h3.createRouter().use(path, handler))
  return h3.toWebHandler(app)(new Request(`http://studio${init.at ?? path}`, init))
}
interface Details {
  title: string
  status: number
  detail: string
  fields?: { path: string; message: string }[]
}
const details = async (response: Response) => (await response.json()) as Details

afterEach(() => void vi.restoreAllMocks())

describe('what the server refuses', () => {
  const schema = z.object({
    name: z.string().min(1).max(20),
    tracks: z.array(z.object({ height: z.number().max(240) })),
  })
  const route = defineApi(async (event) => ({ got: await bodyOf(event, schema) }))
  const post = (body: string) => ask('/', route, { method: 'POST', body })

  it('names each field that is wrong, by its path', async () => {
    const response = await post(JSON.stringify({ name: '', tracks: [{ height: 20 }, { height: 999 }] }))
    expect(response.status).toBe(422)
    expect(response.headers.get('content-type')).toContain('application/problem+json')
    const { detail, fields } = await details(response)
    expect(fields!.map((field) => field.path)).toEqual(['name', 'tracks.1.height'])
    expect(detail).toContain('body: name')
  })

  it('takes what is right', async () => {
    const response = await post(JSON.stringify({ name: 'Boats', tracks: [] }))
    expect(await response.json()).toEqual({ got: { name: 'Boats', tracks: [] } })
  })

  it('says so when a body is not JSON, or too large', async () => {
    expect(await details(await post('{"name":'))).toMatchObject({ status: 400, title: 'Not JSON' })
    const large = await ask('/', route, {
      method: 'POST',
      body: '{}',
      headers: { 'content-length': String(40 * 1024 ** 2) },
    })
    expect(large.status).toBe(413)
  })

  it('says where a character is that can’t be stored', async () => {
    const response = await post(JSON.stringify({ name: 'a\0b', tracks: [] }))
    expect(response.status).toBe(422)
    expect((await details(response)).fields).toMatchObject([{ path: 'name' }])
    const inKey = await post(JSON.stringify({ name: 'a', tracks: [], 'wh\0y': 1 }))
    expect((await details(inKey)).fields).toMatchObject([{ path: 'why' }])
    const deep = await post(JSON.stringify({ name: 'a', tracks: [{ height: 1, note: 'x\0' }] }))
    expect((await details(deep)).fields).toMatchObject([{ path: 'tracks.0.note' }])
  })

  it('checks ids and queries the same way', async () => {
    const byId = defineApi((event) => ({
      id: idOf(event),
      ...queryOf(event, z.object({ after: z.coerce.number().int() })),
    }))
    const id = crypto.randomUUID()
    const good = await ask('/p/:id', byId, { at: `/p/${id}?after=7` })
    expect(await good.json()).toEqual({ id, after: 7 })
    const badId = await details(await ask('/p/:id', byId, { at: '/p/7?after=7' }))
    expect(badId.detail).toContain('path id')
    const badQuery = await details(await ask('/p/:id', byId, { at: `/p/${id}?after=soon` }))
    expect(badQuery).toMatchObject({ status: 422, fields: [{ path: 'after' }] })
  })

  it('says what is not there, and nothing of its inside when something failed that nobody foresaw', async () => {
    const log = vi.spyOn(console, 'error').mockImplementation(() => {})
    const missing = await details(
      await ask(
        '/',
        defineApi(() => {
          throw notFound('render')
        }),
      ),
    )
    expect(missing).toMatchObject({ status: 404, detail: 'There is no such render, or it was deleted.' })
    const gone = await ask(
      '/',
      defineApi(() => {
        throw Object.assign(new Error('x'), { name: 'ProjectMissing' })
      }),
    )
    expect(gone.status).toBe(404)
    const full = await ask(
      '/',
      defineApi(() => {
        throw new Error('Failed query: insert', { cause: Object.assign(new Error('extend'), { code: '53100' }) })
      }),
    )
    expect(await details(full)).toMatchObject({ status: 507, title: 'Disk full' })
    expect(log).not.toHaveBeenCalled()
    const failed = await details(
      await ask(
        '/',
        defineApi(() => {
          throw new Error('password at 10.0.0.7')
        }),
      ),
    )
    expect(failed.status).toBe(500)
    expect(JSON.stringify(failed)).not.toContain('password')
    expect(log).toHaveBeenCalledOnce()
  })

  it('keeps only settings it knows', async () => {
    const route = defineApi((event) => ({ key: settingKey(event) }))
    expect(await (await ask('/s/:key', route, { at: '/s/titles' })).json()).toEqual({ key: 'titles' })
    for (const name of ['passwords', 'constructor', '__proto__'])
      expect((await ask('/s/:key', route, { at: `/s/${name}` })).status).toBe(404)
    expect(settingKinds.desk.schema.safeParse({ density: 'calm', hints: ['titles'] }).success).toBe(true)
    expect(settingKinds.desk.schema.safeParse({ density: 'crowded', hints: [] }).success).toBe(false)
    expect(new Problem(409, 'Taken', 'Another window locked it.').message).toBe('Another window locked it.')
  })
})

describe('files', () => {
  let file: string
  let empty: string
  const dir = mkdtempSync(join(tmpdir(), 'dusk-files-'))
  afterAll(() => rmSync(dir, { recursive: true, force: true }))
  beforeAll(() => {
    file = join(dir, 'film.mp4')
    empty = join(dir, 'nothing.bin')
    writeFileSync(file, '0123456789')
    writeFileSync(empty, '')
  })
  const get = (path: () => string, init: RequestInit = {}, options: { download?: string; lasting?: boolean } = {}) =>
    ask(
      '/',
      defineApi((event) => sendFile(event, path(), 'video/mp4', options)),
      init,
    )

  it('are sent whole, with their type and length', async () => {
    const response = await get(() => file)
    expect(response.status).toBe(200)
    expect(await response.text()).toBe('0123456789')
    expect(response.headers.get('content-type')).toBe('video/mp4')
    expect(response.headers.get('content-length')).toBe('10')
    expect(response.headers.get('cache-control')).toContain('no-cache')
    expect((await get(() => file, {}, { lasting: true })).headers.get('cache-control')).toContain('immutable')
  })

  it('are sent in the ranges players ask for', async () => {
    const cases: [string, string, string][] = [
      ['bytes=2-4', '234', 'bytes 2-4/10'],
      ['bytes=7-', '789', 'bytes 7-9/10'],
      ['bytes=-3', '789', 'bytes 7-9/10'],
      ['bytes=-99', '0123456789', 'bytes 0-9/10'],
      ['bytes=8-99', '89', 'bytes 8-9/10'],
    ]
    for (const [range, text, answered] of cases) {
      const response = await get(() => file, { headers: { range } })
      expect(response.status, range).toBe(206)
      expect(await response.text(), range).toBe(text)
      expect(response.headers.get('content-range'), range).toBe(answered)
      expect(response.headers.get('content-length'), range).toBe(String(text.length))
    }
  })

  it('refuse ranges beyond their end, and pass over those they don’t know', async () => {
    const beyond = await get(() => file, { headers: { range: 'bytes=10-' } })
    expect(beyond.status).toBe(416)
    expect(beyond.headers.get('content-range')).toBe('bytes */10')
    expect((await details(beyond)).detail).toContain('10 bytes')
    for (const range of ['bytes=0-1,4-5', 'lines=1-2', 'bytes=-']) {
      const response = await get(() => file, { headers: { range } })
      expect(response.status, range).toBe(200)
      expect(await response.text(), range).toBe('0123456789')
    }
  })

  it('have names that survive any letters, and may be empty or gone', async () => {
    const named = await get(() => file, {}, { download: 'Lampenfest – Übung.mp4' })
    expect(named.headers.get('content-disposition')).toBe(
      "attachment; filename*=UTF-8''Lampenfest%20%E2%80%93%20%C3%9Cbung.mp4",
    )
    const nothing = await get(() => empty)
    expect([nothing.status, await nothing.text(), nothing.headers.get('content-length')]).toEqual([200, '', '0'])
    expect((await get(() => `${file}.gone`)).status).toBe(404)
  })
})

describe('an upload for which the disk has no room', () => {
  it('goes, and its sender is told why', async () => {
    const directory = mkdtempSync(join(tmpdir(), 'dusk-room-'))
    vi.doMock('node:fs/promises', async (original) => ({
      ...(await original<typeof import('node:fs/promises')>()),
      statfs: () => Promise.resolve({ bavail: room, bsize: 1024 ** 2 }),
    }))
    const { HashingStore } = await import('../server/utils/hashingStore')
    let room = 10
    const store = new HashingStore({ directory })
    const begin = async (id: string) => {
      await store.create(new Upload({ id, size: 8, offset: 0, metadata: {} }))
      return () =>
        store.write(
          Readable.from(
            (async function* () {
              yield Buffer.from('1234')
              throw new Error('the connection was lost')
            })(),
            { objectMode: false },
          ),
          id,
          0,
        )
    }
    const refusing = vi.spyOn(FileStore.prototype, 'write').mockRejectedValueOnce({ status_code: 500, body: 'no room' })
    await expect((await begin('small'))()).rejects.toMatchObject({ status_code: 507 })
    refusing.mockRestore()
    expect(readdirSync(directory)).toEqual([])
    // A connection that breaks off is none of that, however little room there is.
    await expect((await begin('broken'))()).rejects.not.toMatchObject({ status_code: 507 })
    expect(readdirSync(directory)).toContain('broken')
    // With room it was the connection: what came is kept, to be gone on with.
    room = 4000
    await expect((await begin('kept'))()).rejects.not.toMatchObject({ status_code: 507 })
    expect(readdirSync(directory)).toContain('kept')
    rmSync(directory, { recursive: true })
  })
})
