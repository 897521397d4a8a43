import { createServer, type Server } from 'node:http'
import { randomUUID } from 'node:crypto'
import { basename, dirname } from 'node:path'
import {
  createApp,
  createRouter,
  defineEventHandler,
  getHeader,
  readRawBody,
  sendRedirect,
  setResponseHeaders,
  setResponseStatus,
  toNodeListener,
  type H3Event,
} from 'h3'
import send from 'send'
import { z } from 'zod'
import { postFaults, postSchema, readCues, writeCues } from '@dusk/interchange'
import { bodyOf, formOf, hasKey, misdirected, mustHaveKey, postOf, Refusal, route, tooLarge } from './answers'
import { ConductBook, conductSchema, limitsOf } from './conduct'
import { boardPage, CHAPTER_SCRIPT, chapterCues, filmPage } from './pages'
import { Shelf } from './shelf'
import { openUploads } from './uploads'

/** What the board is started with. */
export interface BoardOptions {
  /** Its folder: films, what is being sent, and how it behaves. */
  folder: string
  /** Whoever posts sends it; those who look don't. */
  key: string
}

const LOOPBACK = new Set(['127.0.0.1', 'localhost', '[::1]'])
const POLICY = [
  ...["default-src 'none'", "img-src 'self'", "media-src 'self'", "style-src 'unsafe-inline'"],
  ...["script-src 'self'", "form-action 'self'"],
].join('; ')
/** Bytes of a request that is no upload: words, captions and a thumbnail. */
const BODY_LIMIT = 8e6

function html(event: H3Event, text: string): string {
  setResponseHeaders(event, { 'content-type': 'text/html; charset=utf-8', 'content-security-policy': POLICY })
  return text
}

function file(event: H3Event, path: string, type: string): Promise<void> {
  const { req, res } = event.node
  res.setHeader('content-type', type)
  return new Promise((resolve) => {
    send(req, basename(path), { root: dirname(path) })
      .on('error', () => res.writeHead(404).end())
      .pipe(res)
    res.once('close', resolve)
  })
}

/**
 * A small place to post films to: a stand-in for those on the net, with limits of its own, and a switch that makes it
 * slow, break off, or refuse. See docs/posting.md for what it answers.
 */
export async function openBoard({ folder, key }: BoardOptions): Promise<Server> {
  const [shelf, conduct] = [await Shelf.open(folder), await ConductBook.open(folder)]
  const uploads = await openUploads(folder, shelf, conduct)
  await shelf.clearLeft(Date.now() - 7 * 24 * 3600_000)
  const limits = () => limitsOf(conduct.now)
  const mayPost = () => {
    if (conduct.now.mood === 'refuses') throw new Refusal(403, 'The practice board refuses whatever comes just now.')
  }
  const vtt = (event: H3Event, text: string) => {
    event.node.res.setHeader('content-type', 'text/vtt; charset=utf-8')
    return text
  }

  const router = createRouter()
    .get(
      '/',
      route(async (event) => html(event, boardPage(await shelf.shown(), conduct.now))),
    )
    .get(
      '/chapters.js',
      route((event) => {
        event.node.res.setHeader('content-type', 'text/javascript; charset=utf-8')
        return CHAPTER_SCRIPT
      }),
    )
    .post(
      '/conduct',
      route(async (event) => {
        await conduct.set(await formOf(event, conductSchema))
        return sendRedirect(event, '/', 303)
      }),
    )
    .get(
      '/limits',
      route(() => limits()),
    )
    .get(
      '/posts/:id',
      route(async (event) => html(event, filmPage(await postOf(event, shelf, true)))),
    )
    .get(
      '/posts/:id/film',
      route(async (event) => {
        const post = await postOf(event, shelf, true)
        return file(event, shelf.film(post.id), post.file.kind)
      }),
    )
    .get(
      '/posts/:id/thumbnail',
      route(async (event) => {
        const post = await postOf(event, shelf, true)
        if (!post.thumbnail) throw new Refusal(404, 'This film has no thumbnail.')
        return file(event, shelf.thumbnail(post.id), post.thumbnail)
      }),
    )
    .get(
      '/posts/:id/captions',
      route(async (event) => {
        const { captions } = await postOf(event, shelf, true)
        if (!captions) throw new Refusal(404, 'This film has no captions.')
        return vtt(event, writeCues(readCues(captions.vtt)))
      }),
    )
    .get(
      '/posts/:id/chapters',
      route(async (event) => vtt(event, chapterCues(await postOf(event, shelf, true)))),
    )
    .post(
      '/posts/:id/remove',
      route(async (event) => {
        await formOf(event, z.object({}))
        await shelf.remove((await postOf(event, shelf)).id)
        return sendRedirect(event, '/', 303)
      }),
    )
    .post(
      '/posts',
      route(async (event) => {
        mustHaveKey(event, key)
        mayPost()
        const post = await bodyOf(event, postSchema)
        const faults = postFaults(post, limits())
        if (faults.length > 0)
          throw new Refusal(
            422,
            faults[0]!.words,
            faults.map(({ field, words }) => ({ path: field, message: words })),
          )
        const id = randomUUID()
        await shelf.begin(id, post)
        setResponseStatus(event, 201)
        return { id }
      }),
    )
    .put(
      '/posts/:id/thumbnail',
      route(async (event) => {
        mustHaveKey(event, key)
        const post = await postOf(event, shelf)
        const { kinds, maxBytes } = limits().thumbnail
        const type = getHeader(event, 'content-type') ?? ''
        if (!kinds.includes(type)) throw new Refusal(415, 'A thumbnail is a JPEG, a PNG or a WebP.')
        const bytes = (await readRawBody(event, false)) ?? Buffer.alloc(0)
        if (bytes.length === 0 || bytes.length > maxBytes)
          throw new Refusal(413, `A thumbnail is ${maxBytes / 1e6} MB at most.`)
        await shelf.setThumbnail(post, type, bytes)
        return { id: post.id }
      }),
    )
    .post(
      '/posts/:id/show',
      route(async (event) => {
        mustHaveKey(event, key)
        mayPost()
        const post = await postOf(event, shelf)
        // Asked for once more by a sender that did not hear the answer.
        if (!post.shown) {
          const path = await uploads.arrived(post.id)
          if (!path) throw new Refusal(409, 'The film is not all here yet.')
          await shelf.show(post, path)
          await uploads.forget(post.id)
        }
        return { id: post.id, page: `/posts/${post.id}` }
      }),
    )
    .use(
      '/uploads/**',
      defineEventHandler((event) => uploads.server.handle(event.node.req, event.node.res)),
    )
    .use(
      '/uploads',
      defineEventHandler((event) => uploads.server.handle(event.node.req, event.node.res)),
    )

  const app = createApp()
  app.use(
    defineEventHandler((event) => {
      const host = (getHeader(event, 'host') ?? '').replace(/:\d+$/, '').toLowerCase()
      if (!LOOPBACK.has(host)) throw misdirected()
      setResponseHeaders(event, { 'x-content-type-options': 'nosniff', 'referrer-policy': 'same-origin' })
      const upload = event.path.startsWith('/uploads')
      if (!upload && Number(getHeader(event, 'content-length') ?? 0) > BODY_LIMIT) throw tooLarge()
      if (upload && !hasKey(getHeader(event, 'authorization'), key)) {
        setResponseStatus(event, 401)
        return 'Whoever posts here needs its key.\n'
      }
    }),
  )
  app.use(router)
  return createServer(toNodeListener(app))
}
