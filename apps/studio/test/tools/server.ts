import type { AssetFacts, Project } from '@dusk/timeline'

/** A second, in ticks. */
export const SECOND = 705_600_000
/** An id that ends in `n`. */
export const id = (n: number) => `00000000-0000-4000-8000-${n.toString(16).padStart(12, '0')}`

/** Ten seconds of picture with sound. */
export const HARBOUR: AssetFacts = {
  id: id(0xa1),
  name: 'harbour-wide.mp4',
  kind: 'video',
  length: 10 * SECOND,
  picture: { width: 1920, height: 1080, rate: { num: 30, den: 1 }, variable: false, alpha: false },
  sounds: [{ channels: 2, length: 10 * SECOND, title: '' }],
}
/** A minute of music. */
export const SONG: AssetFacts = {
  ...HARBOUR,
  id: id(0xa2),
  name: 'night-song.wav',
  kind: 'sound',
  length: 60 * SECOND,
  picture: null,
  sounds: [{ channels: 2, length: 60 * SECOND, title: '' }],
}
/** A still with transparency, taller than it is wide. */
export const CARD: AssetFacts = {
  ...HARBOUR,
  id: id(0xa3),
  name: 'lantern-card.png',
  kind: 'still',
  length: 0,
  sounds: [],
  picture: { width: 600, height: 800, rate: null, variable: false, alpha: true },
}

/**
 * A studio's server in memory: keeps edits, settings and what else it is sent, may be away, and may refuse.
 * Answers with what it has; `answers` overrides single paths.
 */
export class Server {
  readonly log: { seq: number; id: string; command: { type: string } & Record<string, unknown> }[] = []
  readonly settings = new Map<string, unknown>()
  readonly calls: { method: string; path: string; body: unknown }[] = []
  readonly answers = new Map<string, unknown>()
  readonly refuses = new Set<string>()
  sources: Record<string, unknown> = {}
  away = false

  constructor(readonly project: Project) {}

  readonly fetch = async (url: string | URL | Request, init?: RequestInit): Promise<Response> => {
    if (this.away) throw new TypeError('network')
    const path = String(url).replace(/^\/api/, '')
    const method = init?.method ?? 'GET'
    const body = typeof init?.body === 'string' ? (JSON.parse(init.body) as Record<string, unknown>) : undefined
    this.calls.push({ method, path, body })
    const answer = (value: unknown) => new Response(JSON.stringify(value))
    const ready = this.answers.get(`${method} ${path}`)
    if (ready instanceof Response) return ready.clone()
    if (ready !== undefined) return answer(ready)
    const setting = /^\/settings\/(.+)$/.exec(path)?.[1]
    if (setting && method === 'PUT') this.settings.set(setting, body!.value)
    if (setting) return answer({ value: this.settings.get(setting) ?? null })
    if (method === 'POST' && path.endsWith('/edits')) return answer(this.edit(body as never))
    const after = /after=(\d+)/.exec(path)
    if (after) return answer({ edits: this.log.slice(Number(after[1])) })
    return answer({ project: this.project, seq: 0, sources: this.sources, arrivals: [] })
  }

  /** The commands kept so far, by type. */
  get kept(): string[] {
    return this.log.map(({ command }) => command.type)
  }

  private edit({ edits }: { edits: { id: string; command: { type: string } }[] }) {
    const outcomes = edits.map(({ id: editId, command }) => {
      if (this.refuses.has(command.type)) return { id: editId, refused: 'Another window locked it.', rule: 'locked' }
      this.log.push({ seq: this.log.length + 1, id: editId, command })
      return { id: editId, seq: this.log.length }
    })
    return { seq: this.log.length, outcomes }
  }
}
