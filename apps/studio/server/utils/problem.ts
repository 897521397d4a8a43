import type { H3Event } from 'h3'
import { BUCKET_AWAY, isDiskFull, waitsFor } from '@dusk/media/faults'
import { badText } from '@dusk/timeline'
import { z } from 'zod'

/** A refusal as RFC 9457 problem details. */
export class Problem extends Error {
  constructor(
    readonly status: number,
    readonly title: string,
    readonly detail: string,
    readonly fields: { path: string; message: string }[] = [],
  ) {
    super(detail)
  }
}

export function notFound(what: string): Problem {
  return new Problem(404, 'Not found', `There is no such ${what}, or it was deleted.`)
}

/** What is answered where something can't be stored. */
export function diskFull(): Problem {
  return new Problem(507, 'Disk full', 'The disk of the studio is full. Free some room; nothing that was kept is lost.')
}

/** What is answered where the bucket that media are kept in can't be reached: a dependency failed (RFC 4918). */
export function bucketAway(): Problem {
  return new Problem(
    424,
    'Bucket away',
    'The bucket that media are kept in does not answer. Try again in a moment; nothing that was kept is lost.',
  )
}

/** What somebody who was not let in is answered. */
export function notLetIn(): Problem {
  return new Problem(
    401,
    'Not let in',
    'This studio answers to browsers that opened its link. Print one on its machine with ./dusk open.',
  )
}

/** Largest JSON body. */
const BODY_LIMIT = 32 * 1024 ** 2

async function readJson(event: H3Event): Promise<unknown> {
  const length = Number(getHeader(event, 'content-length') ?? 0)
  if (length > BODY_LIMIT) throw new Problem(413, 'Too large', 'The request is larger than 32 MB.')
  const text = (await readRawBody(event, 'utf8')) ?? ''
  if (text.length > BODY_LIMIT) throw new Problem(413, 'Too large', 'The request is larger than 32 MB.')
  let value: unknown
  try {
    value = JSON.parse(text || '{}')
  } catch {
    throw new Problem(400, 'Not JSON', 'The body of the request is not JSON.')
  }
  const bad = badText(value, text)
  if (bad)
    throw new Problem(422, 'Invalid request', `body: ${bad.path || 'the whole'} — ${bad.words}.`, [
      { path: bad.path, message: `It ${bad.words}, which can’t be stored.` },
    ])
  return value
}

function check<S extends z.ZodType>(schema: S, value: unknown, where: string): z.infer<S> {
  const parsed = schema.safeParse(value)
  if (parsed.success) return parsed.data
  const fields = parsed.error.issues
    .slice(0, 20)
    .map((issue) => ({ path: issue.path.join('.'), message: issue.message }))
  throw new Problem(
    422,
    'Invalid request',
    `${where}: ${fields[0]!.path || 'the whole'} — ${fields[0]!.message}`,
    fields,
  )
}

/** A value that the server put together, checked like a body. */
export function heldTo<S extends z.ZodType>(schema: S, value: unknown): z.infer<S> {
  return check(schema, value, 'body')
}

/** The body of a request, checked. */
export async function bodyOf<S extends z.ZodType>(event: H3Event, schema: S): Promise<z.infer<S>> {
  return check(schema, await readJson(event), 'body')
}

/** The query of a request, checked. */
export function queryOf<S extends z.ZodType>(event: H3Event, schema: S): z.infer<S> {
  return check(schema, getQuery(event), 'query')
}

/** An id in the path. */
export function idOf(event: H3Event, name = 'id'): string {
  return check(z.uuid(), getRouterParam(event, name), `path ${name}`)
}

/** A SHA-256 in the path, in hex. */
export function hashOf(event: H3Event, name = 'hash'): string {
  return check(
    z.string().regex(/^[0-9a-f]{64}$/, 'expected a SHA-256 in hex'),
    getRouterParam(event, name),
    `path ${name}`,
  )
}

/** Answers with a refusal. */
export function refuse(event: H3Event, { status, title, detail, fields }: Problem) {
  setResponseStatus(event, status)
  setHeader(event, 'content-type', 'application/problem+json')
  return { type: 'about:blank', title, status, detail, ...(fields.length > 0 ? { fields } : {}) }
}

/**
 * A route whose refusals are answered as problem details; what nobody foresaw is logged and answered without its
 * inside. It answers those whom the guard let in, whatever way a request came to it.
 */
export function defineApi<T>(handle: (event: H3Event) => Promise<T> | T) {
  return defineOpenApi((event) => {
    if (!event.context.letIn) throw notLetIn()
    return handle(event)
  })
}

/** The same for one that answers before somebody was let in; `doors.ts` has to name it, too. */
export function defineOpenApi<T>(handle: (event: H3Event) => Promise<T> | T) {
  return defineEventHandler(async (event) => {
    try {
      return await handle(event)
    } catch (error) {
      let problem: Problem
      if (error instanceof Problem) problem = error
      else if ((error as Error).name === 'ProjectMissing') problem = notFound('project')
      else if (isDiskFull(error)) problem = diskFull()
      else if (waitsFor(error) === BUCKET_AWAY) problem = bucketAway()
      else {
        console.error(`${event.method} ${event.path}:`, error)
        problem = new Problem(
          500,
          'Unexpected failure',
          'Something failed on the server. Its log says more; nothing that was kept is lost.',
        )
      }
      return refuse(event, problem)
    }
  })
}
