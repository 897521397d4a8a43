import { createReadStream } from 'node:fs'
import { Upload, type DetailedError } from 'tus-js-client'
import { z } from 'zod'
import type { Post } from '@dusk/interchange'

/** How long a place may take to say what has arrived, in milliseconds. */
const ASKING_MS = 20_000

/** Something a place said no to: trying again as it is would not help. */
export class PlaceRefused extends Error {
  constructor(
    message: string,
    readonly status: number,
  ) {
    super(message)
    this.name = 'PlaceRefused'
  }
}

/** A place that does not answer, or broke off: trying again later may help. */
export class PlaceAway extends Error {
  constructor(message: string) {
    super(message)
    this.name = 'PlaceAway'
  }
}

/** Milliseconds after which something that went wrong on the way is tried again. */
const PAUSES = [500, 2000, 5000]
/** Bytes sent with one request: what is lost at most when a connection dies unnoticed. */
const PIECE = 16 * 1024 ** 2

/** A place that films are posted to, as docs/posting.md describes it. */
export class Place {
  /**
   * @param origin of it, such as `http://127.0.0.1:4172`
   * @param key that whoever posts there sends
   * @param name that it is called by in words
   */
  constructor(
    private readonly origin: string,
    private readonly key: string,
    private readonly name: string,
  ) {}

  /** Says what comes. @returns its id there @throws {PlaceRefused} {PlaceAway} */
  async begin(post: Post, signal: AbortSignal): Promise<string> {
    const body = JSON.stringify(post)
    const answer = await this.call('/posts', { method: 'POST', body, signal })
    return z.object({ id: z.uuid() }).parse(await answer.json()).id
  }

  async setThumbnail(id: string, kind: string, bytes: Buffer, signal: AbortSignal): Promise<void> {
    const body = new Uint8Array(bytes)
    await this.call(`/posts/${id}/thumbnail`, { method: 'PUT', body, headers: { 'content-type': kind }, signal })
  }

  /** Lets it be seen. @returns the address of its page */
  async show(id: string, signal: AbortSignal): Promise<string> {
    const answer = await this.call(`/posts/${id}/show`, { method: 'POST', signal })
    return new URL(z.object({ page: z.string() }).parse(await answer.json()).page, this.origin).href
  }

  /**
   * Sends the file, or the rest of it.
   * @param from where an earlier try sent it to; `null` the first time
   * @param told hears how many bytes are on their way or there, and where they go
   */
  async send(
    id: string,
    path: string,
    from: string | null,
    told: (sent: number, upload: string | null) => void,
    signal: AbortSignal,
  ): Promise<void> {
    signal.throwIfAborted()
    await new Promise<void>((resolve, reject) => {
      const upload: Upload = new Upload(createReadStream(path), {
        endpoint: `${this.origin}/uploads`,
        uploadUrl: from,
        chunkSize: PIECE,
        retryDelays: PAUSES,
        metadata: { post: id },
        headers: { authorization: `Bearer ${this.key}` },
        onShouldRetry: (error) => !signal.aborted && statusOf(error) !== 403 && statusOf(error) !== 404,
        onUploadUrlAvailable: () => told(0, upload.url),
        onProgress: (sent) => told(sent, upload.url),
        onSuccess: () => resolve(),
        onError: (error) => reject(this.reasonOf(error)),
      })
      signal.addEventListener('abort', () => void upload.abort().finally(() => reject(signal.reason)), { once: true })
      upload.start()
    })
  }

  /** Bytes of an upload that have arrived; `null` when that can't be told. */
  async arrived(upload: string): Promise<number | null> {
    const headers = { 'tus-resumable': '1.0.0', authorization: `Bearer ${this.key}` }
    const signal = AbortSignal.timeout(ASKING_MS)
    const answer = await fetch(upload, { method: 'HEAD', headers, signal }).catch(() => null)
    const offset = answer?.headers.get('upload-offset')
    return offset == null ? null : Number(offset)
  }

  private reasonOf(error: Error): Error {
    const status = statusOf(error)
    const said = (error as DetailedError).originalResponse?.getBody()?.trim()
    if (status === 403 || status === 404 || status === 413 || status === 422)
      return new PlaceRefused(said || `${this.name} refuses it.`, status)
    if (status !== null) return new PlaceAway(said || `${this.name} answered with an error (${status}).`)
    return new PlaceAway(`The connection to ${lower(this.name)} was lost.`)
  }

  private async call(path: string, init: RequestInit): Promise<Response> {
    const headers = { authorization: `Bearer ${this.key}`, 'content-type': 'application/json', ...init.headers }
    const answer = await fetch(`${this.origin}${path}`, { ...init, headers }).catch((error: Error) => {
      init.signal?.throwIfAborted()
      throw new PlaceAway(
        `${this.name} does not answer (${(error.cause as Error | undefined)?.message ?? error.message}).`,
      )
    })
    if (answer.ok) return answer
    const { detail } = (await answer.json().catch(() => ({}))) as { detail?: string }
    if (answer.status >= 500) throw new PlaceAway(detail ?? `${this.name} answered with an error (${answer.status}).`)
    throw new PlaceRefused(detail ?? `${this.name} refuses it (${answer.status}).`, answer.status)
  }
}

const lower = (name: string) => name.charAt(0).toLowerCase() + name.slice(1)

const statusOf = (error: unknown) => (error as DetailedError).originalResponse?.getStatus() ?? null
