import { beforeEach, describe, expect, it, vi } from 'vitest'
import { createPinia, setActivePinia } from 'pinia'
import { createProject, tracksOf, type Project } from '@dusk/timeline'
import { useNotices } from '~/stores/notices'
import { useProject } from '~/stores/project'

const kept = new Map<string, unknown>()
vi.mock('idb-keyval', () => ({
  get: (key: string) => Promise.resolve(kept.get(key)),
  set: (key: string, value: unknown) => Promise.resolve(void kept.set(key, value)),
}))

/** A server that keeps what it is sent, may be away, and may refuse. */
class Server {
  log: { seq: number; id: string; command: unknown }[] = []
  away = false
  refuses = new Set<string>()
  constructor(readonly project: Project) {}

  readonly fetch = async (url: string | URL | Request, init?: RequestInit): Promise<Response> => {
    if (this.away) throw new TypeError('network')
    const path = String(url)
    const answer = (body: unknown) => new Response(JSON.stringify(body))
    if (init?.method === 'POST') {
      const { edits } = JSON.parse(String(init.body)) as { edits: { id: string; command: { type: string } }[] }
      const outcomes = edits.map(({ id, command }) => {
        if (this.refuses.has(command.type)) return { id, refused: 'Another window locked it.', rule: 'locked' }
        this.log.push({ seq: this.log.length + 1, id, command })
        return { id, seq: this.log.length }
      })
      return answer({ seq: this.log.length, outcomes })
    }
    const after = /after=(\d+)/.exec(path)
    if (after) return answer({ edits: this.log.slice(Number(after[1])) })
    return answer({ project: this.project, seq: 0, sources: {}, arrivals: [] })
  }
}

let server: Server
const settled = () => vi.waitFor(() => expect(useProject().waiting).toBe(0), { timeout: 5000 })

beforeEach(async () => {
  kept.clear()
  sessionStorage.clear()
  setActivePinia(createPinia())
  server = new Server(createProject('Lantern Night', { width: 640, height: 360, rate: { num: 25, den: 1 } }))
  vi.stubGlobal('fetch', server.fetch)
  await useProject().open(server.project.id)
})

describe('the open project', () => {
  it('shows an edit at once and has it kept on the server', async () => {
    const project = useProject()
    expect(project.perform({ type: 'renameProject', name: 'Dusk' })).toBe(true)
    expect(project.document!.name).toBe('Dusk')
    await settled()
    expect(server.log.map((entry) => entry.command)).toEqual([{ type: 'renameProject', name: 'Dusk' }])
    expect(project.kept).toContain('every edit kept')
  })

  it('undoes and redoes, each an edit of its own, and remembers it over a reload', async () => {
    const project = useProject()
    project.perform({ type: 'renameProject', name: 'Dusk' })
    project.undo()
    expect(project.document!.name).toBe('Lantern Night')
    project.redo()
    expect(project.document!.name).toBe('Dusk')
    await settled()
    expect(server.log).toHaveLength(3)
    setActivePinia(createPinia())
    await useProject().open(server.project.id)
    expect(useProject().history.done.map((step) => step.label)).toEqual(['Renamed the project to Dusk'])
  })

  it('says why an edit is refused here, and changes nothing', () => {
    const project = useProject()
    const track = tracksOf(project.document!, project.reelId)[0]!
    project.perform({ type: 'setTrack', trackId: track.id, set: { locked: true } })
    expect(project.perform({ type: 'removeTrack', trackId: track.id })).toBe(false)
    expect(useNotices().list.at(-1)!.text).toContain('is locked')
    expect(project.document!.tracks[track.id]).toBeDefined()
  })

  it('takes back an edit that the server refuses, with its reason, and forgets its undo', async () => {
    const project = useProject()
    server.refuses.add('renameProject')
    project.perform({ type: 'renameProject', name: 'Dusk' })
    await settled()
    expect(project.document!.name).toBe('Lantern Night')
    expect(project.history.done).toEqual([])
    expect(useNotices().list.at(-1)!.text).toContain('Another window locked it')
  })

  it('keeps edits while the server is away, says so, and sends them when it is back', async () => {
    const project = useProject()
    server.away = true
    project.perform({ type: 'renameProject', name: 'Dusk' })
    await vi.waitFor(() => expect(project.offline).toBe(true))
    expect(project.kept).toBe('1 edit waits for the server')
    // A window closed meanwhile finds them again.
    setActivePinia(createPinia())
    server.away = false
    await useProject().open(server.project.id)
    expect(useProject().document!.name).toBe('Dusk')
    await settled()
    expect(server.log).toHaveLength(1)
  })

  it('takes in what another window did, beneath what is still on its way', async () => {
    const project = useProject()
    server.log.push({ seq: 1, id: crypto.randomUUID(), command: { type: 'renameProject', name: 'Theirs' } })
    await project.heardOfEdit(1)
    expect(project.document!.name).toBe('Theirs')
    expect(project.history.done).toEqual([])
  })
})
