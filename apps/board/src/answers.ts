import { timingSafeEqual } from 'node:crypto'
import { createError, defineEventHandler, getHeader, getRouterParam, readRawBody, type H3Event } from 'h3'
import type { z } from 'zod'
import type { Shelf, Shelved } from './shelf'

/** A refusal in words, as problem details (RFC 9457). */
export class Refusal extends Error {
  constructor(
    readonly status: number,
    readonly detail: string,
    readonly fields: { path: string; message: string }[] = [],
  ) {
    super(detail)
  }
}

/** A route whose refusals are answered as problem details. */
export function route<T>(handle: (event: H3Event) => Promise<T> | T) {
  return defineEventHandler(async (event) => {
    try {
      return await handle(event)
    } catch (error) {
      if (!(error instanceof Refusal)) throw error
      event.node.res.statusCode = error.status
      event.node.res.setHeader('content-type', 'application/problem+json')
      const fields = error.fields.length > 0 ? { fields: error.fields } : {}
      return JSON.stringify({ type: 'about:blank', status: error.status, detail: error.detail, ...fields })
    }
  })
}

/** Whether a request carries the board's key, as programs that post do. */
export function hasKey(header: string | undefined, key: string): boolean {
  const [, token] = /^Bearer (\S+)$/.exec(header ?? '') ?? []
  const [given, wanted] = [Buffer.from(token ?? ''), Buffer.from(key)]
  return given.length === wanted.length && timingSafeEqual(given, wanted)
}

/** @throws {Refusal} 401 without the board's key */
export function mustHaveKey(event: H3Event, key: string): void {
  if (!hasKey(getHeader(event, 'authorization'), key)) throw new Refusal(401, 'Whoever posts here needs its key.')
}

/** What a form of the board itself sent. @throws {Refusal} when it comes from another page, or does not fit */
export async function formOf<S extends z.ZodType>(event: H3Event, schema: S): Promise<z.infer<S>> {
  const origin = getHeader(event, 'origin') ?? ''
  if (!URL.canParse(origin) || new URL(origin).host !== getHeader(event, 'host'))
    throw new Refusal(403, 'Only the board’s own page may change how it behaves.')
  const form = Object.fromEntries(new URLSearchParams((await readRawBody(event, 'utf8')) ?? ''))
  return held(schema, form)
}

/** A JSON body. @throws {Refusal} 422 naming the field */
export async function bodyOf<S extends z.ZodType>(event: H3Event, schema: S): Promise<z.infer<S>> {
  let value: unknown
  try {
    value = JSON.parse((await readRawBody(event, 'utf8')) || '{}')
  } catch {
    throw new Refusal(400, 'The body of the request is not JSON.')
  }
  return held(schema, value)
}

function held<S extends z.ZodType>(schema: S, value: unknown): z.infer<S> {
  const parsed = schema.safeParse(value)
  if (parsed.success) return parsed.data
  const fields = parsed.error.issues.slice(0, 20).map(({ path, message }) => ({ path: path.join('.'), message }))
  throw new Refusal(422, `${fields[0]!.path || 'The whole'}: ${fields[0]!.message}.`, fields)
}

/** The post in the path. @throws {Refusal} 404 when there is none, or `seen` is asked for and it is not shown yet */
export async function postOf(event: H3Event, shelf: Shelf, seen = false): Promise<Shelved> {
  const post = await shelf.get(getRouterParam(event, 'id') ?? '')
  if (!post || (seen && !post.shown)) throw new Refusal(404, 'There is no such film here.')
  return post
}

/** An error of h3 for bodies that nothing here needs. */
export const tooLarge = () => createError({ statusCode: 413, statusMessage: 'Content Too Large' })

/** An error of h3 for requests that name the board otherwise than it is called. */
export const misdirected = () => createError({ statusCode: 421, statusMessage: 'Misdirected Request' })
