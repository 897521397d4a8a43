import { createReadStream, mkdtempSync, readdirSync, rmSync, writeFileSync } from 'node:fs'
import type { Server } from 'node:http'
import type { AddressInfo } from 'node:net'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterEach, beforeEach, describe, expect, it } from 'vitest'
import { Upload } from 'tus-js-client'
import type { Post } from '@dusk/interchange'
import { openBoard } from '../src/board'

const KEY = 'k'.repeat(40)
const BYTES = 300_000

let folder: string
let board: Server
let origin: string

async function open(): Promise<void> {
  board = await openBoard({ folder, key: KEY })
  await new Promise<void>((resolve) => board.listen(0, '127.0.0.1', resolve))
  origin = `http://127.0.0.1:${(board.address() as AddressInfo).port}`
}
async function close(): Promise<void> {
  board.closeAllConnections()
  await new Promise((resolve) => board.close(resolve))
}

beforeEach(async () => {
  folder = mkdtempSync(join(tmpdir(), 'dusk-board-'))
  await open()
})
afterEach(async () => {
  await close()
  rmSync(folder, { recursive: true, force: true })
})

const POST: Post = {
  ...{ title: 'Lantern <night>', description: 'At the harbour', tags: ['boats'] },
  chapters: [
    { at: 0, name: 'Arrival' },
    { at: 20, name: 'Lanterns' },
  ],
  captions: { language: 'en', vtt: '00:01.000 --> 00:03.000\nThe boats come in' },
  file: { name: 'night.mp4', kind: 'video/mp4', bytes: BYTES, seconds: 42, width: 1280, height: 720 },
}

const call = (path: string, method = 'GET', body?: unknown, headers: Record<string, string> = {}) =>
  fetch(`${origin}${path}`, {
    method,
    redirect: 'manual',
    headers: { authorization: `Bearer ${KEY}`, ...headers },
    body: body === undefined || body instanceof Uint8Array ? (body as BodyInit) : JSON.stringify(body),
  })
/** What the form on the board's page sends. */
const behave = (set: Record<string, string>) =>
  fetch(`${origin}/conduct`, {
    method: 'POST',
    redirect: 'manual',
    headers: { origin, 'content-type': 'application/x-www-form-urlencoded' },
    body: new URLSearchParams({ mood: 'well', megabytes: '100', minutes: '10', shape: 'any', ...set }),
  })

/** Sends the file of a post, as far as it goes. @returns how far that was */
async function sendFile(id: string, from?: string): Promise<{ error: string | null; url: string; sent: number }> {
  const path = join(folder, 'night.mp4')
  writeFileSync(path, Buffer.alloc(BYTES, 7))
  return new Promise((resolve) => {
    let sent = 0
    const upload: Upload = new Upload(createReadStream(path), {
      endpoint: `${origin}/uploads`,
      uploadUrl: from,
      uploadSize: BYTES,
      chunkSize: 50_000,
      retryDelays: null,
      metadata: { post: id },
      headers: { authorization: `Bearer ${KEY}` },
      onChunkComplete: (_size, accepted) => (sent = accepted),
      onError: (error) => resolve({ error: error.message, url: upload.url!, sent }),
      onSuccess: () => resolve({ error: null, url: upload.url!, sent }),
    })
    upload.start()
  })
}

const begin = async () => ((await (await call('/posts', 'POST', POST)).json()) as { id: string }).id

describe('the practice board', () => {
  it('shows a film with its words, chapters, captions and thumbnail once all of it is there', async () => {
    const id = await begin()
    expect((await call(`/posts/${id}`)).status).toBe(404)
    expect((await call(`/posts/${id}/show`, 'POST')).status).toBe(409)
    expect((await sendFile(id)).error).toBeNull()
    const picture = new Uint8Array([1, 2, 3])
    expect((await call(`/posts/${id}/thumbnail`, 'PUT', picture, { 'content-type': 'image/jpeg' })).status).toBe(200)
    expect(await (await call(`/posts/${id}/show`, 'POST')).json()).toEqual({ id, page: `/posts/${id}` })
    // Asked for again, as after an answer that got lost.
    expect((await call(`/posts/${id}/show`, 'POST')).status).toBe(200)

    const shown = await (await fetch(`${origin}/posts/${id}`)).text()
    expect(shown).toContain('<h1>Lantern &lt;night&gt;</h1>')
    expect(shown).toContain('<a class="time" href="#t=20">0:20</a><span>Lanterns</span>')
    expect(await (await fetch(`${origin}/posts/${id}/captions`)).text()).toBe(
      'WEBVTT\n\n00:00:01.000 --> 00:00:03.000\nThe boats come in\n',
    )
    expect(await (await fetch(`${origin}/posts/${id}/chapters`)).text()).toContain('00:00:20.000 --> 00:00:42.000')
    const part = await fetch(`${origin}/posts/${id}/film`, { headers: { range: 'bytes=10-19' } })
    expect([part.status, (await part.arrayBuffer()).byteLength]).toEqual([206, 10])
    expect(await (await fetch(`${origin}/posts/${id}/thumbnail`)).bytes()).toEqual(picture)
    expect(await (await fetch(origin)).text()).toContain('Lantern &lt;night&gt;')
    expect(readdirSync(join(folder, 'uploads'))).toEqual([])
  })

  it('breaks off half way, and goes on from there once it behaves', async () => {
    const id = await begin()
    await behave({ mood: 'breaks' })
    const first = await sendFile(id)
    expect(first.error).toContain('503')
    const again = await sendFile(id, first.url)
    expect(again.error).toContain('503')
    const held = await call(new URL(first.url).pathname, 'HEAD', undefined, { 'tus-resumable': '1.0.0' })
    expect(held.headers.get('upload-offset')).toBe(String(BYTES / 2))

    await close()
    await open()
    await behave({ mood: 'well' })
    const last = await sendFile(id, `${origin}${new URL(first.url).pathname}`)
    expect(last).toMatchObject({ error: null, sent: BYTES })
    expect((await call(`/posts/${id}/show`, 'POST')).status).toBe(200)
  })

  it('says what it takes, refuses what does not fit by field, and whatever comes when it is told to', async () => {
    await behave({ megabytes: '1', minutes: '0.5', shape: 'tall' })
    expect(await (await call('/limits')).json()).toMatchObject({ maxBytes: 1e6, maxSeconds: 30 })
    const refused = await call('/posts', 'POST', POST)
    expect(refused.status).toBe(422)
    const { fields } = (await refused.json()) as { fields: { path: string }[] }
    expect(fields.map((field) => field.path)).toEqual(['length', 'shape'])
    await behave({ mood: 'refuses' })
    expect((await call('/posts', 'POST', POST)).status).toBe(403)
    expect((await behave({ minutes: 'many' })).status).toBe(422)
  })

  it('is slow when it is told to be', async () => {
    const id = await begin()
    await behave({ mood: 'slow' })
    const began = performance.now()
    expect((await sendFile(id)).error).toBeNull()
    expect(performance.now() - began).toBeGreaterThan((BYTES / 400_000) * 1000 * 0.9)
  })

  it('lets nobody post without its key, nobody else’s page change it, and answers to its own names alone', async () => {
    const none = { authorization: '' }
    expect((await call('/posts', 'POST', POST, none)).status).toBe(401)
    expect((await call('/uploads', 'POST', undefined, none)).status).toBe(401)
    const foreign = await fetch(`${origin}/conduct`, {
      method: 'POST',
      headers: { origin: 'http://elsewhere.example', 'content-type': 'application/x-www-form-urlencoded' },
      body: 'mood=refuses&megabytes=1&minutes=1&shape=any',
    })
    expect(foreign.status).toBe(403)
    const unnamed = await fetch(`${origin}/conduct`, { method: 'POST', headers: { origin: 'null' }, body: '' })
    expect(unnamed.status).toBe(403)
    const id = await begin()
    expect(
      (await call(`/posts/${id}/thumbnail`, 'PUT', new Uint8Array(3), { 'content-type': 'text/html' })).status,
    ).toBe(415)
    expect((await call('/posts/../../etc/passwd')).status).toBe(404)
    const { request } = await import('node:http')
    const status = await new Promise((resolve) =>
      request(origin, { headers: { host: 'evil.example' } }, (answer) => resolve(answer.statusCode)).end(),
    )
    expect(status).toBe(421)
  })

  it('takes a film down from its page', async () => {
    const id = await begin()
    await sendFile(id)
    await call(`/posts/${id}/show`, 'POST')
    const removed = await fetch(`${origin}/posts/${id}/remove`, {
      method: 'POST',
      headers: { origin },
      redirect: 'manual',
    })
    expect(removed.status).toBe(303)
    expect((await call(`/posts/${id}`)).status).toBe(404)
    expect(readdirSync(join(folder, 'posts'))).toEqual([])
  })
})
