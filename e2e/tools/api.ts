import { createReadStream, statSync } from 'node:fs'
import { basename } from 'node:path'
import * as tus from 'tus-js-client'

/** The parts of the API that tests use to prepare what they then look at on screen. */
export class Studio {
  constructor(
    readonly origin: string,
    private readonly key = process.env.DUSK_KEY ?? '',
  ) {}

  /** What says that we may: the data folder's key. */
  get headers(): Record<string, string> {
    return { authorization: `Bearer ${this.key}` }
  }

  /** The bytes of a file. */
  async file(path: string): Promise<Buffer> {
    const response = await fetch(`${this.origin}${path}`, { headers: this.headers })
    if (!response.ok) throw new Error(`${path}: ${response.status}`)
    return Buffer.from(await response.arrayBuffer())
  }

  async call<T>(path: string, method = 'GET', body?: unknown): Promise<T> {
    const response = await fetch(`${this.origin}/api${path}`, {
      method,
      // A connection of its own: one kept open may be closed by the server just as it is used again.
      headers: {
        ...this.headers,
        connection: 'close',
        ...(body === undefined ? {} : { 'content-type': 'application/json' }),
      },
      body: body === undefined ? undefined : JSON.stringify(body),
    })
    if (!response.ok) throw new Error(`${method} ${path}: ${response.status} ${await response.text()}`)
    return (await response.json()) as T
  }

  async createProject(
    name: string,
    width: number,
    height: number,
    rate: { num: number; den: number },
  ): Promise<string> {
    return (await this.call<{ id: string }>('/projects', 'POST', { name, format: { width, height, rate } })).id
  }

  async edit(
    projectId: string,
    ...commands: unknown[]
  ): Promise<{ seq: number; outcomes: { seq?: number; refused?: string }[] }> {
    const edits = commands.map((command) => ({ id: crypto.randomUUID(), command }))
    return this.call(`/projects/${projectId}/edits`, 'POST', { windowId: 'test', edits })
  }

  upload(projectId: string | null, path: string): Promise<string> {
    const assetId = crypto.randomUUID()
    return new Promise((resolve, reject) => {
      new tus.Upload(createReadStream(path), {
        endpoint: `${this.origin}/api/uploads`,
        uploadSize: statSync(path).size,
        chunkSize: 64 * 1024 ** 2,
        headers: this.headers,
        metadata: { assetId, fileName: basename(path), windowId: 'test', ...(projectId ? { projectId } : {}) },
        onError: reject,
        onSuccess: () => resolve(assetId),
      }).start()
    })
  }

  /** The project once the given sources are ready for previewing. */
  async ready(projectId: string, assetIds: string[]) {
    for (let i = 0; i < 1500; i++) {
      const state = await this.call<ProjectState>(`/projects/${projectId}`)
      const failed = state.pendingImports.find((entry) => entry.state === 'failed')
      if (failed) throw new Error(`${failed.fileName}: ${failed.message}`)
      if (assetIds.every((id) => state.sources[id]?.state === 'ready' && state.project.assets[id])) return state
      await new Promise((resolve) => setTimeout(resolve, 300))
    }
    throw new Error('The sources did not become ready.')
  }

  /** A finished render of a reel. */
  async render(projectId: string, reelId: string, name: string, settings: object): Promise<Rendered> {
    const asked = { reelId, name, settings }
    const { id } = await this.call<{ id: string }>(`/projects/${projectId}/renders`, 'POST', asked)
    for (let i = 0; i < 1500; i++) {
      const { renders } = await this.call<{ renders: Rendered[] }>('/renders')
      const found = renders.find((render) => render.id === id)
      if (found?.state === 'ready') return found
      if (found?.state === 'failed') throw new Error(`The render ${name} failed: ${found.message}`)
      await new Promise((resolve) => setTimeout(resolve, 300))
    }
    throw new Error(`The render ${name} did not become ready.`)
  }
}

/** A render as the list of them tells it. */
export interface Rendered {
  id: string
  state: string
  message: string | null
  /** Loudness in LUFS and true peak as a factor, of one that is ready. */
  report: { loudness: number; peak: number } | null
}

export interface ProjectState {
  seq: number
  project: {
    name: string
    assets: Record<string, { id: string; name: string; length: number }>
    reels: Record<string, { id: string; name: string }>
    tracks: Record<string, { id: string; name: string; kind: string; purpose: string; order: string }>
    clips: Record<string, { id: string; trackId: string; assetId: string; start: number; length: number; head: number }>
  }
  sources: Record<string, { state: string; notes: string[] }>
  pendingImports: { id: string; fileName: string; state: string; message: string | null }[]
}

export const SECOND = 705_600_000

/** Ids of a project's tracks by name, and of its reel. */
export function parts({ project }: ProjectState) {
  const track = (name: string) => Object.values(project.tracks).find((entry) => entry.name === name)!.id
  return { reelId: Object.keys(project.reels)[0]!, track }
}

/** A piece for the command `place`, in seconds. */
export function piece(
  trackId: string,
  assetId: string,
  stream: number | null,
  start: number,
  length: number,
  source = 0,
  link: string | null = null,
) {
  return {
    clipId: crypto.randomUUID(),
    trackId,
    assetId,
    stream,
    start: Math.round(start * SECOND),
    length: Math.round(length * SECOND),
    source: Math.round(source * SECOND),
    link,
  }
}
