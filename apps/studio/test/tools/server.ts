import { applyCommand, CommandRefused, commandSchema, type AssetFacts, type Patch, type Project } from '@dusk/timeline'

import { EFFECT_DEFAULTS, TRANSITION_DEFAULTS } from '~~/shared/preferences'
import { withChange, type SettingChange } from '~~/shared/settingChange'

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
  readonly log: {
    seq: number
    id: string
    command: { type: string } & Record<string, unknown>
    patches: Patch[]
  }[] = []
  readonly settings = new Map<string, unknown>()
  readonly calls: { method: string; path: string; body: unknown }[] = []
  readonly answers = new Map<string, unknown>([
    ['GET /renders', { renders: [] }],
    ['GET /hardware', { encoders: [] }],
  ])
  readonly refuses = new Set<string>()
  sources: Record<string, unknown> = {}
  away = false
  /** The document with everything that was kept. */
  document: Project

  constructor(readonly project: Project) {
    this.document = project
  }

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
    if (setting && method === 'PATCH') {
      const changes = body!.changes as SettingChange[]
      const initial = {
        titles: [],
        purposes: [],
        fonts: [],
        desk: { density: 'calm', hints: [] },
        transitions: TRANSITION_DEFAULTS,
        effects: EFFECT_DEFAULTS,
      }[setting]
      const before = this.settings.get(setting) ?? initial ?? { active: 'Dusk', sets: {} }
      this.settings.set(
        setting,
        changes.reduce((held: unknown, change) => withChange(held, change), before),
      )
    }
    if (setting) return answer({ value: this.settings.get(setting) ?? null })
    if (method === 'POST' && path.endsWith('/edits')) return answer(this.edit(body as never))
    const after = /after=(\d+)/.exec(path)
    if (after) return answer({ edits: this.log.slice(Number(after[1])) })
    const one = /\/edits\/([0-9a-f-]{36})$/.exec(path)?.[1]
    if (one) {
      const entry = this.log.find((logged) => logged.id === one)
      return entry ? answer({ label: '', patches: entry.patches }) : new Response('{}', { status: 404 })
    }
    const { document: project, log, sources } = this
    return answer({ project, seq: log.length, sources, pendingImports: [], leftOut: [] })
  }

  /** The commands kept so far, by type. */
  get kept(): string[] {
    return this.log.map(({ command }) => command.type)
  }

  /** Keeps a command as another window's. */
  foreign(command: { type: string } & Record<string, unknown>, editId = crypto.randomUUID() as string): void {
    const { project, patches } = applyCommand(this.document, commandSchema.parse(command), editId)
    this.document = project
    this.log.push({ seq: this.log.length + 1, id: editId, command, patches })
  }

  private edit({ edits }: { edits: { id: string; command: { type: string } }[] }) {
    const outcomes = edits.map(({ id: editId, command }) => {
      if (this.refuses.has(command.type)) return { id: editId, refused: 'Another window locked it.', rule: 'locked' }
      const known = this.log.find((entry) => entry.id === editId)
      if (known) return { id: editId, seq: known.seq }
      try {
        this.foreign(command as never, editId)
      } catch (error) {
        if (!(error instanceof CommandRefused)) throw error
        return { id: editId, refused: error.message, rule: error.rule }
      }
      if (this.log.at(-1)!.patches.length > 0) return { id: editId, seq: this.log.length }
      this.log.pop()
      return { id: editId, nothing: true }
    })
    return { seq: this.log.length, outcomes }
  }
}
