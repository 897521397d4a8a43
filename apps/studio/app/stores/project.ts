import { defineStore } from 'pinia'
import { computed, ref, shallowRef } from 'vue'
import { get, set } from 'idb-keyval'
import {
  CommandRefused,
  commandSchema,
  EMPTY_HISTORY,
  planRedo,
  planUndo,
  pushStep,
  reelsOf,
  stepFor,
  SyncedDocument,
  type Command,
  type CommandInput,
  type History,
  type LoggedCommand,
  type Project,
  type Rejection,
  type SentCommand,
} from '@dusk/timeline'
import { api, ApiError, Offline } from '~/lib/api'
import { windowId } from '~/lib/windowId'
import { useNotices } from './notices'
import type { Arrival, SourceState } from '~~/server/utils/sources'

type Outcome = { id: string; seq: number } | { id: string; refused: string; rule: string }

/** Most commands sent at once, and pause before the server is asked again. */
const BATCH = 200
const RETRY_MS = 1500
/** How long to wait for the answer to own edits before asking for others'. */
const OWN_FIRST_MS = 120

/** The open project: its document, kept on the server edit by edit, with undo and redo of this window. */
export const useProject = defineStore('project', () => {
  const notices = useNotices()
  const id = ref('')
  const document = shallowRef<Project | null>(null)
  const reelId = ref('')
  const sources = shallowRef<Record<string, SourceState>>({})
  const arrivals = shallowRef<Arrival[]>([])
  const history = shallowRef<History>(EMPTY_HISTORY)
  const keptAt = shallowRef<Date | null>(null)
  const waiting = ref(0)
  const offline = ref(false)
  const missing = ref<string | null>(null)
  let synced: SyncedDocument | null = null
  let sending = false

  const reel = computed(() => document.value?.reels[reelId.value] ?? null)
  /** Whether edits are on the server, in words. */
  const kept = computed(() => {
    if (offline.value)
      return waiting.value > 0
        ? `${waiting.value} ${waiting.value === 1 ? 'edit waits' : 'edits wait'} for the server`
        : 'the server does not answer'
    if (waiting.value > 0) return 'keeping…'
    const time = keptAt.value?.toLocaleTimeString([], { hour: '2-digit', minute: '2-digit', hour12: false })
    return time ? `every edit kept ${time}` : 'every edit kept'
  })

  const unsentKey = () => `unsent:${id.value}`
  const historyKey = () => `history:${id.value}`

  async function open(projectId: string): Promise<void> {
    close()
    id.value = projectId
    try {
      const loaded = await api<{ project: Project; seq: number; sources: typeof sources.value; arrivals: Arrival[] }>(
        `/projects/${projectId}`,
      )
      synced = new SyncedDocument(loaded.project, loaded.seq)
      sources.value = loaded.sources
      arrivals.value = loaded.arrivals
    } catch (error) {
      missing.value = (error as Error).message
      return
    }
    try {
      history.value = JSON.parse(sessionStorage.getItem(historyKey()) ?? 'null') ?? EMPTY_HISTORY
    } catch {
      history.value = EMPTY_HISTORY
    }
    // Edits that a closed tab or a lost server left unsent are carried out again first.
    const unsent = ((await get(unsentKey())) ?? []) as SentCommand[]
    for (const sent of unsent) {
      // They may be of an older version: settings added since take their defaults.
      const command = commandSchema.safeParse(sent.command)
      try {
        if (command.success) synced.perform({ ...sent, command: command.data })
        else notices.warn('An edit from before could not be kept: this version does not know it.')
      } catch (error) {
        if (!(error instanceof CommandRefused)) throw error
        notices.warn(`An edit from before could not be kept: ${error.message}`)
      }
    }
    publish()
    reelId.value = reelsOf(synced.project)[0]?.id ?? ''
    void flush()
  }

  function close(): void {
    synced = null
    newest = 0
    document.value = null
    missing.value = null
    keptAt.value = null
    history.value = EMPTY_HISTORY
    sources.value = {}
    arrivals.value = []
    id.value = ''
  }

  function publish(): void {
    if (!synced) return
    document.value = synced.project
    waiting.value = synced.pending.length
    void set(
      unsentKey(),
      synced.pending.map((sent) => ({ ...sent })),
    )
  }

  function remember(next: History): void {
    history.value = next
    try {
      sessionStorage.setItem(historyKey(), JSON.stringify(next))
    } catch {
      // A history too long for the browser's session store is kept in memory only.
      sessionStorage.removeItem(historyKey())
    }
  }

  /** Carries out a command without touching the history. Returns what changed, or `null` when it was refused. */
  function carryOut(command: Command, commandId: string) {
    if (!synced) return null
    try {
      const before = synced.project
      const applied = synced.perform({ id: commandId, command })
      publish()
      void flush()
      return { before, applied }
    } catch (error) {
      if (!(error instanceof CommandRefused)) throw error
      notices.warn(error.message)
      return null
    }
  }

  /** An edit of the person's. Returns whether it was carried out; a refusal is said at the foot of the page. */
  function perform(input: CommandInput): boolean {
    const command = commandSchema.parse(input)
    const commandId = crypto.randomUUID()
    const began = performance.now()
    const done = carryOut(command, commandId)
    performance.measure('command', { start: began, detail: command.type })
    if (!done) return false
    if (done.applied.changes.length > 0 || done.before.name !== done.applied.project.name)
      remember(pushStep(history.value, stepFor(command, commandId, done.before, done.applied)))
    return true
  }

  function undo(): void {
    const step = planUndo(history.value)
    if (!step) return
    if (carryOut(step.command, crypto.randomUUID())) remember(step.history)
    else remember({ ...history.value, done: history.value.done.slice(0, -1) })
  }

  function redo(): void {
    const step = planRedo(history.value)
    if (!step) return
    if (carryOut(step.command, crypto.randomUUID())) remember(step.history)
    else remember({ ...history.value, undone: history.value.undone.slice(0, -1) })
  }

  function lost(rejections: readonly Rejection[]): void {
    for (const { id: commandId, reason } of rejections) {
      notices.warn(`An edit was not kept, since another window came first: ${reason}`)
      remember({ done: history.value.done.filter((step) => step.id !== commandId), undone: history.value.undone })
    }
  }

  /** Sends what waits, in order, until nothing does. */
  async function flush(): Promise<void> {
    if (sending || !synced) return
    sending = true
    try {
      while (synced && synced.pending.length > 0) {
        const batch = synced.pending.slice(0, BATCH)
        const { outcomes } = await api<{ outcomes: Outcome[] }>(`/projects/${id.value}/edits`, 'POST', {
          windowId: windowId(),
          edits: batch,
        })
        offline.value = false
        const entries: LoggedCommand[] = []
        for (const outcome of outcomes) {
          const sent = batch.find((entry) => entry.id === outcome.id)!
          if ('refused' in outcome) {
            synced.drop(sent.id)
            lost([{ ...sent, reason: outcome.refused }])
          } else entries.push({ ...sent, seq: outcome.seq })
        }
        await take(entries)
        keptAt.value = new Date()
      }
    } catch (error) {
      if (error instanceof Offline) {
        offline.value = true
        setTimeout(() => void flush(), RETRY_MS)
      } else if (error instanceof ApiError) notices.warn(error.message)
      else throw error
    } finally {
      sending = false
    }
  }

  /** Takes log entries in; when some before them are missing, those are fetched. */
  async function take(entries: LoggedCommand[]): Promise<void> {
    if (!synced) return
    let result = entries.length > 0 ? synced.receive(entries) : []
    if (result === null) result = await catchUp()
    lost(result ?? [])
    publish()
  }

  async function catchUp(): Promise<Rejection[]> {
    if (!synced) return []
    const { edits } = await api<{ edits: LoggedCommand[] }>(`/projects/${id.value}/edits?after=${synced.seq}`)
    const result = synced.receive(edits)
    if (result) return result
    const loaded = await api<{ project: Project; seq: number }>(`/projects/${id.value}`)
    return synced.reload(loaded.project, loaded.seq)
  }

  /** Number of the newest edit heard of. */
  let newest = 0
  let catching = false
  /** Another window, or the worker, has edited the project. */
  async function heardOfEdit(seq: number): Promise<void> {
    newest = Math.max(newest, seq)
    if (catching) return
    catching = true
    try {
      while (synced && newest > synced.seq) {
        // What is on its way from here comes back with its answer: only the rest has to be fetched, and once for all.
        if (sending) {
          await new Promise((resolve) => setTimeout(resolve, OWN_FIRST_MS))
          if (!synced || newest <= synced.seq) break
        }
        lost(await catchUp())
        publish()
      }
    } catch {
      // Asked again when the connection is back.
    } finally {
      catching = false
    }
  }

  let sourcesTimer: ReturnType<typeof setTimeout> | null = null
  /** Source states are fetched at most a few times a second. */
  function refreshSources(): void {
    sourcesTimer ??= setTimeout(async () => {
      sourcesTimer = null
      if (!id.value) return
      try {
        const loaded = await api<{ sources: typeof sources.value; arrivals: Arrival[] }>(
          `/projects/${id.value}/sources`,
        )
        sources.value = loaded.sources
        arrivals.value = loaded.arrivals
      } catch {
        // Asked again with the next event.
      }
    }, 250)
  }

  /** After a lost connection everything may have changed. */
  async function reconnect(): Promise<void> {
    refreshSources()
    if (synced) {
      lost(await catchUp().catch(() => []))
      publish()
    }
    void flush()
  }

  return {
    id,
    document,
    reelId,
    reel,
    sources,
    arrivals,
    history,
    kept,
    offline,
    missing,
    waiting,
    open,
    close,
    perform,
    undo,
    redo,
    heardOfEdit,
    refreshSources,
    reconnect,
  }
})
