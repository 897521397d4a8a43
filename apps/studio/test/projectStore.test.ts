import { beforeEach, describe, expect, it, vi } from 'vitest'
import { createPinia, setActivePinia } from 'pinia'
import { createProject, dropEdit, joinStep, tracksOf } from '@dusk/timeline'
import { useNotices } from '~/features/ui/noticesStore'
import { useProject } from '~/features/project/projectStore'
import { lockedOut } from '~/features/ui/api'
import { Server } from './tools/server'

let server: Server
const settled = () => vi.waitFor(() => expect(useProject().waiting).toBe(0), { timeout: 5000 })

beforeEach(async () => {
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

  it('keeps edits while the server has no room for them, says so once, and sends them when there is some', async () => {
    const project = useProject()
    const path = `POST /projects/${server.project.id}/edits`
    const words = JSON.stringify({ status: 507, title: 'Disk full', detail: 'The disk of the studio is full.' })
    server.answers.set(path, new Response(words, { status: 507 }))
    project.perform({ type: 'renameProject', name: 'Dusk' })
    await vi.waitFor(() => expect(project.full).toBe(true))
    expect(project.kept).toBe('the disk is full: 1 edit waits for room')
    expect(useNotices().list).toEqual([])
    server.answers.delete(path)
    project.perform({ type: 'renameProject', name: 'Night' })
    await settled()
    expect(server.kept).toEqual(['renameProject', 'renameProject'])
    expect(project.full).toBe(false)
  })

  it('takes in what another window did, beneath what is still on its way', async () => {
    const project = useProject()
    server.foreign({ type: 'renameProject', name: 'Theirs' })
    await project.heardOfEdit(1)
    expect(project.document!.name).toBe('Theirs')
    expect(project.history.done).toEqual([])
  })

  it('takes back a step of before a reload, by what the log says of it', async () => {
    const project = useProject()
    project.perform({ type: 'renameProject', name: 'Dusk' })
    await settled()
    setActivePinia(createPinia())
    await useProject().open(server.project.id)
    useProject().undo()
    await vi.waitFor(() => expect(useProject().document!.name).toBe('Lantern Night'))
    useProject().redo()
    expect(useProject().document!.name).toBe('Dusk')
  })

  it('isolates an edit that the server can’t take, says why, and keeps the others', async () => {
    const project = useProject()
    const track = tracksOf(project.document!, project.reelId)[0]!
    const inner = server.fetch
    vi.stubGlobal('fetch', async (url: string, init?: RequestInit) => {
      if (String(init?.body).includes('far too large'))
        return new Response(JSON.stringify({ detail: 'The request is larger than 32 MB.' }), { status: 413 })
      return inner(url, init)
    })
    project.perform({ type: 'setTrack', trackId: track.id, set: { name: 'Before' } })
    project.perform({ type: 'renameProject', name: 'far too large' })
    project.perform({ type: 'setTrack', trackId: track.id, set: { height: 80 } })
    await settled()
    expect(server.log.map((entry) => entry.command.type)).toEqual(['setTrack', 'setTrack'])
    expect(project.document!.name).toBe('Lantern Night')
    expect(project.document!.tracks[track.id]).toMatchObject({ name: 'Before', height: 80 })
    expect(useNotices().list.at(-1)!.text).toContain('larger than 32 MB')
    expect(project.history.done).toHaveLength(2)
  })

  it('loads the document anew when the log no longer goes together with it', async () => {
    const project = useProject()
    server.foreign({ type: 'renameProject', name: 'Theirs' })
    const [entry] = server.log
    entry!.patches = [{ op: 'name', from: 'Something else', to: 'Theirs' }]
    await project.heardOfEdit(1)
    expect(project.document!.name).toBe('Theirs')
  })

  it('no longer says that the server is away once it has answered', async () => {
    const project = useProject()
    server.away = true
    project.perform({ type: 'renameProject', name: 'Dusk' })
    await vi.waitFor(() => expect(project.offline).toBe(true))
    server.away = false
    await project.reconnect()
    await settled()
    expect(project.offline).toBe(false)
    expect(project.kept).toContain('every edit kept')
  })

  it('fetches an edit it was told of while the server was away, without being told again', async () => {
    const project = useProject()
    const track = tracksOf(project.document!, project.reelId)[0]!
    server.foreign({ type: 'setTrack', trackId: track.id, set: { name: 'Theirs' } })
    server.away = true
    await project.heardOfEdit(1)
    expect(project.document!.tracks[track.id]!.name).toBe(track.name)
    server.away = false
    await vi.waitFor(() => expect(project.document!.tracks[track.id]!.name).toBe('Theirs'), { timeout: 5000 })
  })

  it('asks for the state of its sources again where the server was away', async () => {
    const project = useProject()
    server.away = true
    project.refreshSources()
    await new Promise((resolve) => setTimeout(resolve, 400))
    server.sources = { harbour: { state: 'ready' } }
    server.away = false
    await vi.waitFor(() => expect(project.sources).toHaveProperty('harbour'), { timeout: 5000 })
  })

  it('lacks nothing that was told while it was being opened', async () => {
    setActivePinia(createPinia())
    const project = useProject()
    const opening = project.open(server.project.id)
    // The answer is on its way; what comes now is not in it.
    server.foreign({ type: 'renameProject', name: 'Theirs' })
    void project.heardOfEdit(1)
    await opening
    await vi.waitFor(() => expect(project.document!.name).toBe('Theirs'))
  })

  it('does not log an edit that changes nothing', async () => {
    const project = useProject()
    const track = tracksOf(project.document!, project.reelId)[0]!
    project.perform({ type: 'setTrack', trackId: track.id, set: { name: track.name } })
    await settled()
    expect(server.log).toEqual([])
    expect(project.history.done).toEqual([])
  })
})

describe('edits that are one gesture', () => {
  const rename = (name: string) => ({ type: 'renameProject', name }) as const

  it('are taken back and done again together, over a reload too', async () => {
    const project = useProject()
    for (const name of ['One', 'Two', 'Three']) expect(project.perform(rename(name), 'typing')).toBe(true)
    expect(project.history.done).toHaveLength(1)
    await settled()
    setActivePinia(createPinia())
    await useProject().open(server.project.id)
    const again = useProject()
    again.undo()
    await vi.waitFor(() => expect(again.document!.name).toBe('Lantern Night'))
    again.redo()
    await vi.waitFor(() => expect(again.document!.name).toBe('Three'))
  })

  it('end with another edit, another run, or a pause', async () => {
    const project = useProject()
    project.perform(rename('One'), 'typing')
    project.perform(rename('Two'))
    project.perform(rename('Three'), 'typing')
    project.perform(rename('Four'), 'other')
    expect(project.history.done).toHaveLength(4)
    const later = performance.now() + 2000
    vi.spyOn(performance, 'now').mockReturnValue(later)
    project.perform(rename('Five'), 'other')
    vi.restoreAllMocks()
    expect(project.history.done).toHaveLength(5)
  })

  it('leave what was done before alone when the first of them changes nothing and the next is refused', async () => {
    const project = useProject()
    project.perform(rename('One'))
    const removed = { type: 'removeTrack', trackId: '00000000-0000-4000-8000-00000000dead' } as const
    expect(project.performAll([rename('One'), removed], 'Did it all')).toBe(false)
    expect(project.document!.name).toBe('One')
    expect(project.history.done).toHaveLength(1)
  })

  it('keep the others when one of them was not kept, and clear what could be done again', () => {
    const step = { id: 'a', label: 'Moved', more: ['b', 'c'] }
    const history = { done: [step], undone: [{ id: 'x', label: 'Older' }] }
    expect(dropEdit(history, 'a').done).toEqual([{ id: 'b', label: 'Moved', more: ['c'] }])
    expect(dropEdit(history, 'b').done).toEqual([{ id: 'a', label: 'Moved', more: ['c'] }])
    expect(dropEdit(history, 'x').undone).toEqual([])
    expect(joinStep(history, 'd')).toEqual({ done: [{ ...step, more: ['b', 'c', 'd'] }], undone: [] })
  })

  it('all stay or none', async () => {
    const project = useProject()
    const removed = { type: 'removeTrack', trackId: '00000000-0000-4000-8000-00000000dead' } as const
    expect(project.performAll([rename('One'), rename('Two')], 'Did it all')).toBe(true)
    expect(project.history.done).toHaveLength(1)
    expect(project.performAll([rename('Three'), removed], 'Did it all')).toBe(false)
    expect(project.document!.name).toBe('Two')
    expect(project.history.done).toHaveLength(1)
  })
})

describe('a project that is left', () => {
  /** A server for two projects whose answers to some paths wait until they are let go. */
  function twoProjects() {
    const other = new Server(createProject('Morning', { width: 640, height: 360, rate: { num: 25, den: 1 } }))
    const held: (() => void)[] = []
    let holds: RegExp | null = null
    vi.stubGlobal('fetch', async (url: string, init?: RequestInit) => {
      const answer = await (String(url).includes(other.project.id) ? other : server).fetch(url, init)
      if (holds?.test(`${init?.method ?? 'GET'} ${url}`)) await new Promise<void>((resolve) => held.push(resolve))
      return answer
    })
    return {
      other,
      hold: (path: RegExp | null) => (holds = path),
      letGo: async () => {
        holds = null
        for (const go of held.splice(0)) go()
        await new Promise((resolve) => setTimeout(resolve, 50))
      },
      waiting: () => vi.waitFor(() => expect(held.length).toBeGreaterThan(0), { timeout: 3000 }),
    }
  }

  it('while it loads never comes up inside the next one', async () => {
    const { other, hold, letGo, waiting } = twoProjects()
    const project = useProject()
    project.close()
    hold(new RegExp(`projects/${server.project.id}$`))
    const first = project.open(server.project.id)
    await waiting()
    await project.open(other.project.id)
    expect(project.document!.name).toBe('Morning')
    await letGo()
    await first
    expect([project.id, project.document!.name]).toEqual([other.project.id, 'Morning'])
    project.perform({ type: 'renameProject', name: 'Noon' })
    await settled()
    expect([other.document.name, server.document.name]).toEqual(['Noon', 'Lantern Night'])
  })

  it('tells nothing late of its sources, of foreign edits, or of steps that were to be taken back', async () => {
    const { other, hold, letGo, waiting } = twoProjects()
    const project = useProject()
    project.perform({ type: 'renameProject', name: 'Dusk' })
    await settled()
    setActivePinia(createPinia())
    const again = useProject()
    await again.open(server.project.id)
    hold(new RegExp(`projects/${server.project.id}/`))
    server.sources = { harbour: { state: 'ready' } }
    again.refreshSources()
    again.undo()
    server.foreign({ type: 'renameProject', name: 'Theirs' })
    void again.heardOfEdit(2)
    await waiting()
    await new Promise((resolve) => setTimeout(resolve, 400))
    await again.open(other.project.id)
    await letGo()
    expect(again.sources).toEqual({})
    expect(again.document!.name).toBe('Morning')
    expect(again.history.done).toEqual([])
    expect(other.log).toEqual([])
  })

  it('is closed by its own page alone', async () => {
    const { other } = twoProjects()
    const project = useProject()
    await project.open(other.project.id)
    project.close(server.project.id)
    expect(project.document!.name).toBe('Morning')
    expect(project.of(server.project.id)).toBeNull()
    project.close(other.project.id)
    expect(project.document).toBeNull()
  })

  it('does not send again what was on its way when it was left', async () => {
    const { other, hold, letGo, waiting } = twoProjects()
    const project = useProject()
    hold(/POST .*edits$/)
    project.perform({ type: 'renameProject', name: 'Dusk' })
    await waiting()
    await project.open(other.project.id)
    await letGo()
    await project.open(server.project.id)
    expect(project.document!.name).toBe('Dusk')
    expect(project.waiting).toBe(0)
    expect(server.log).toHaveLength(1)
  })
})

describe('an edit that the server does not take', () => {
  const path = () => `POST /projects/${server.project.id}/edits`
  const say = (status: number) =>
    server.answers.set(path(), new Response(JSON.stringify({ detail: 'No.' }), { status }))

  it.each([401, 403, 404, 421, 429, 500])('waits, and is not lost, where it answers %i', async (status) => {
    const project = useProject()
    say(status)
    project.perform({ type: 'renameProject', name: 'Dusk' })
    await vi.waitFor(() => expect(project.blocked).not.toBeNull())
    expect(project.kept).toMatch(/: 1 edit waits in this browser$/)
    expect([project.document!.name, project.waiting, project.refused]).toEqual(['Dusk', 1, []])
    expect(lockedOut.value).toBe(status === 401)
    // Over a reload, too.
    setActivePinia(createPinia())
    await useProject().open(server.project.id)
    expect(useProject().document!.name).toBe('Dusk')
    server.answers.delete(path())
    useProject().perform({ type: 'renameProject', name: 'Night' })
    await vi.waitFor(() => expect(useProject().waiting).toBe(0), { timeout: 9000 })
    expect(server.kept).toEqual(['renameProject', 'renameProject'])
    expect(useProject().blocked).toBeNull()
    expect(lockedOut.value).toBe(false)
  })

  it('for what it is stays readable, over a reload, until it is sent away', async () => {
    const project = useProject()
    say(422)
    project.perform({ type: 'renameProject', name: 'Dusk' })
    await settled()
    server.answers.delete(path())
    server.refuses.add('renameProject')
    project.perform({ type: 'renameProject', name: 'Night' })
    await settled()
    const told = ['Renamed the project to Dusk: No.', 'Renamed the project to Night: Another window locked it.']
    const list = () => useProject().refused.map(({ label, reason }) => `${label}: ${reason}`)
    expect(list()).toEqual(told)
    setActivePinia(createPinia())
    await useProject().open(server.project.id)
    expect(list()).toEqual(told)
    useProject().sendRefusedAway()
    expect(list()).toEqual([])
    await new Promise((resolve) => setTimeout(resolve, 50))
    setActivePinia(createPinia())
    await useProject().open(server.project.id)
    expect(list()).toEqual([])
  })
})
