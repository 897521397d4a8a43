import { createReadStream, statSync } from 'node:fs'
import { request as plain, type IncomingMessage } from 'node:http'
import { request as secure } from 'node:https'
import { basename } from 'node:path'
import { rootCertificates } from 'node:tls'
import * as tus from 'tus-js-client'
import { StepFailed } from './steps'

/** What a studio is asked with by our own programs. */
export interface Reach {
  /** `http://127.0.0.1:4870`, or with https where the studio is on the network. */
  origin: string
  /** The data folder's key. */
  key: string
  /** The studio's own certificate, where it speaks TLS. */
  certificate?: string | null
  /** Name that the certificate is for, where that is not the address. */
  name?: string
}

/** A studio as our own programs speak to it: with the data folder's key, and trusting its own certificate. */
export class StudioClient {
  constructor(readonly reach: Reach) {}

  get origin(): string {
    return this.reach.origin
  }

  get headers(): Record<string, string> {
    return { authorization: `Bearer ${this.reach.key}`, origin: this.origin }
  }

  /** Asks for JSON. @throws {StepFailed} with the studio's words */
  async json<T>(path: string, method = 'GET', body?: unknown): Promise<T> {
    const { status, text } = await this.ask(path, method, body)
    if (status < 200 || status > 299) throw new StepFailed(`${method} ${path} answered ${status}: ${text}`)
    return JSON.parse(text) as T
  }

  /** Whether the studio is up. */
  async answers(): Promise<boolean> {
    return this.ask('/api/health').then(
      ({ status }) => status === 200,
      () => false,
    )
  }

  /** A link that lets one browser in, once, and for how many minutes it holds. */
  async link(): Promise<{ path: string; minutes: number }> {
    return this.json('/api/access/links', 'POST')
  }

  /** Sends a file into a project. @returns its asset's id */
  upload(projectId: string, path: string, assetId: string = crypto.randomUUID()): Promise<string> {
    return new Promise((resolve, reject) => {
      new tus.Upload(createReadStream(path), {
        endpoint: `${this.origin}/api/uploads`,
        uploadSize: statSync(path).size,
        chunkSize: 16 * 1024 ** 2,
        headers: this.headers,
        httpStack: new tus.DefaultHttpStack(this.trust),
        metadata: { projectId, assetId, fileName: basename(path), windowId: 'demo' },
        onError: reject,
        onSuccess: () => resolve(assetId),
      }).start()
    })
  }

  private get trust() {
    const { certificate, name } = this.reach
    return { ...(certificate ? { ca: [...rootCertificates, certificate] } : {}), ...(name ? { servername: name } : {}) }
  }

  private ask(path: string, method = 'GET', body?: unknown): Promise<{ status: number; text: string }> {
    const url = new URL(path, this.origin)
    return new Promise((resolve, reject) => {
      const answered = async (response: IncomingMessage) => {
        let text = ''
        for await (const part of response.setEncoding('utf8')) text += part
        resolve({ status: response.statusCode ?? 0, text })
      }
      const sent = (url.protocol === 'https:' ? secure : plain)(url, {
        ...this.trust,
        method,
        // A kept connection would be closed by the studio just when the next request goes out on it.
        agent: false,
        timeout: 60_000,
        headers: { ...this.headers, ...(body === undefined ? {} : { 'content-type': 'application/json' }) },
      })
      sent.once('response', (response) => answered(response).catch(reject))
      sent.once('timeout', () => sent.destroy(new Error('The studio did not answer within a minute.')))
      sent.once('error', reject)
      sent.end(body === undefined ? undefined : JSON.stringify(body))
    })
  }
}
