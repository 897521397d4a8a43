import { defineStore } from 'pinia'
import { computed, ref, shallowRef } from 'vue'
import {
  CommandRefused,
  commandSchema,
  describeCommand,
  Diverged,
  dropEdit,
  dropStep,
  EMPTY_HISTORY,
  editsOf,
  joinStep,
  pushStep,
  redoCommand,
  reelsOf,
  SyncedDocument,
  takeRedo,
  takeUndo,
  undoCommand,
  type Command,
  type CommandInput,
  type History,
  type HistoryStep,
  type LoggedEdit,
  type Patch,
  type Project,
  type Rejection,
  type SingleInput,
} from '@dusk/timeline'
import { api, ApiError, DISK_FULL, Offline } from '~/features/ui/api'
import { batchOf, Outbox } from './outbox'
import { UndoPatches } from './undoPatches'
import { windowId } from '~/features/ui/windowId'
import { useNotices } from '~/features/ui/noticesStore'
import type { PendingImport, SourceState } from '~~/server/utils/sources'

type Outcome = { id: string; seq: number } | { id: string; nothing: true } | { id: string; refused: string }

interface Loaded {
  project: Project
  seq: number
  sources: Record<string, SourceState>
  pendingImports: PendingImport[]
  /** Parts of a damaged document that had to be left out. */
  leftOut: string[]
}

/** Pause before the server is asked again. */
const RETRY_MS = 1500
/** How long to wait for the answer to own edits before asking for others'. */
const OWN_FIRST_MS = 120

/** Milliseconds within which an edit of a run belongs to the one before it. */
const RUN = 1000

/** The open project: its document, kept on the server edit by edit, with undo and redo of this window. */
export const useProject = defineStore('project', () => {
  const notices = useNotices()
  const id = ref('')
  const document = shallowRef<Project | null>(null)
  const reelId = ref('')
  const sources = shallowRef<Record<string, SourceState>>({})
  const pendingImports = shallowRef<PendingImport[]>([])
  const history = shallowRef<History>(EMPTY_HISTORY)
  const keptAt = shallowRef<Date | null>(null)
  const waiting = ref(0)
  const offline = ref(false)
  /** The server answers, and has no room to keep anything. */
  const full = ref(false)
  const missing = ref<string | null>(null)
  let synced: SyncedDocument | null = null
  let toldWhileOpening = false
  let outbox: Outbox | null = null
  let patches = new UndoPatches()
  let sending = false

  const reel = computed(() => document.value?.reels[reelId.value] ?? null)
  /** Whether edits are on the server, in words. */
  const kept = computed(() => {
    if (full.value)
      return `the disk is full: ${waiting.value} ${waiting.value === 1 ? 'edit waits' : 'edits wait'} for room`
    if (offline.value)
      return waiting.value > 0
        ? `${waiting.value} ${waiting.value === 1 ? 'edit waits' : 'edits wait'} for the server`
        : 'the server does not answer'
    if (waiting.value > 0) return 'keeping…'
    const time = keptAt.value?.toLocaleTimeString([], { hour: '2-digit', minute: '2-digit', hour12: false })
    return time ? `every edit kept ${time}` : 'every edit kept'
  })

  const historyKey = () => `history:${id.value}`

  async function open(projectId: string): Promise<void> {
    close()
    id.value = projectId
    try {
      const loaded = await api<Loaded>(`/projects/${projectId}`)
      synced = new SyncedDocument(loaded.project, loaded.seq)
      sources.value = loaded.sources
      pendingImports.value = loaded.pendingImports
      if (loaded.leftOut.length > 0)
        notices.warn(`Parts of this project were damaged and are left out: ${loaded.leftOut.join('; ')}`)
    } catch (error) {
      missing.value = (error as Error).message
      return
    }
    try {
      history.value = JSON.parse(sessionStorage.getItem(historyKey()) ?? 'null') ?? EMPTY_HISTORY
    } catch {
      history.value = EMPTY_HISTORY
    }
    await performUnsent((outbox = new Outbox(projectId)))
    publish()
    reelId.value = reelsOf(synced.project)[0]?.id ?? ''
    // What was told while the document was on its way may not be in it.
    if (toldWhileOpening) void reconnect()
    else void flush()
  }

  /** Edits that a closed tab or a lost server left unsent are carried out again first. */
  async function performUnsent(box: Outbox): Promise<void> {
    const { sent, unreadable } = await box.load().catch(() => ({ sent: [], unreadable: 0 }))
    if (unreadable > 0) notices.warn('An edit from before could not be kept: this version does not know it.')
    for (const edit of sent) {
      try {
        const applied = synced!.perform(edit)
        patches.keep(edit.id, applied.patches)
      } catch (error) {
        if (!(error instanceof CommandRefused)) throw error
        box.remove([edit.id])
        notices.warn(`An edit from before could not be kept: ${error.message}`)
      }
    }
  }

  function close(): void {
    synced = null
    outbox = null
    patches = new UndoPatches()
    newest = 0
    toldWhileOpening = false
    document.value = null
    missing.value = null
    keptAt.value = null
    offline.value = false
    full.value = false
    history.value = EMPTY_HISTORY
    sources.value = {}
    pendingImports.value = []
    id.value = ''
  }

  function publish(): void {
    if (!synced) return
    document.value = synced.project
    waiting.value = synced.pending.length
  }

  function remember(next: History): void {
    history.value = next
    sessionStorage.setItem(historyKey(), JSON.stringify(next))
  }

  /** The run of edits that is under way. */
  let running: { name: string; step: string; until: number } | null = null

  /** Carries out a command without touching the history. Returns what changed, or `null` when it was refused. */
  function carryOut(command: Command, commandId: string): Patch[] | null {
    if (!synced) return null
    try {
      const applied = synced.perform({ id: commandId, command })
      outbox?.add({ id: commandId, command })
      publish()
      void flush()
      return applied.patches
    } catch (error) {
      if (!(error instanceof CommandRefused)) throw error
      notices.warn(error.message)
      return null
    }
  }

  /**
   * An edit of the person's. Returns whether it was carried out; a refusal is said at the foot of the page.
   * @param run names a run of edits that belong together, such as presses of an arrow: one that follows within a second
   * is taken back with those before it
   */
  function perform(input: CommandInput, run?: string): boolean {
    const parsed = commandSchema.safeParse(input)
    if (!parsed.success) {
      // What was typed or dragged lies beyond what the document holds, such as a length of a thousand years.
      const [issue] = parsed.error.issues
      const size = { too_big: 'that is more than a reel can hold', too_small: 'that is too little' }[
        issue!.code as string
      ]
      notices.warn(`This can’t be kept: ${size ?? `${String(issue!.path.at(-1) ?? input.type)} — ${issue!.message}`}.`)
      return false
    }
    const command = parsed.data
    const commandId = crypto.randomUUID()
    const began = performance.now()
    const done = carryOut(command, commandId)
    performance.measure('command', { start: began, detail: command.type })
    if (!done) return false
    if (done.length > 0) {
      patches.keep(commandId, done)
      const now = performance.now()
      const goesOn = run !== undefined && running?.name === run && running.step === lastStep() && now < running.until
      if (goesOn) remember(joinStep(history.value, commandId))
      else remember(pushStep(history.value, { id: commandId, label: describeCommand(command) }))
      running = run === undefined ? null : { name: run, step: lastStep()!, until: now + RUN }
    }
    return true
  }

  /**
   * Several edits that are one gesture: all are carried out, or none of them.
   * @param label what the history calls it, in the past
   */
  function performAll(inputs: readonly SingleInput[], label: string): boolean {
    return perform(inputs.length === 1 ? inputs[0]! : { type: 'batch', label, commands: [...inputs] })
  }

  /** Takes the last step back; its patches come from the log where the page no longer has them. */
  function undo(): void {
    const taken = takeUndo(history.value)
    if (taken) step(taken, true, undoCommand)
  }

  /** Id of the step that would be taken back next. */
  const lastStep = (): string | null => history.value.done.at(-1)?.id ?? null

  /** Takes a certain step back while it is still the last one; says so where others have followed. */
  function undoStep(stepId: string | null): void {
    if (stepId && lastStep() === stepId) undo()
    else notices.say('Other steps have followed: take them back one by one, or go back in the history.')
  }

  function redo(): void {
    const taken = takeRedo(history.value)
    if (taken) step(taken, false, redoCommand)
  }

  type Taken = { step: HistoryStep; history: History }
  let stepping = false

  function step(taken: Taken, back: boolean, command: (label: string, known: readonly Patch[]) => Command): void {
    const { id: stepId, label } = taken.step
    // What was changed last is taken back first.
    const ids = back ? editsOf(taken.step).toReversed() : editsOf(taken.step)
    const act = (known: readonly (readonly Patch[])[]) => {
      if (carryOut(command(label, known.flat()), crypto.randomUUID())) remember(taken.history)
      else remember(dropStep(history.value, stepId))
    }
    const known = ids.map((editId) => patches.known(editId))
    if (known.every((one) => one !== null)) return act(known)
    if (stepping) return
    stepping = true
    Promise.all(ids.map((editId) => patches.fetch(id.value, editId)))
      .then(act, (error: Error) => {
        notices.warn(`“${label}” can’t be taken back any more: ${error.message}`)
        if (error instanceof ApiError) remember(dropStep(history.value, stepId))
      })
      .finally(() => (stepping = false))
  }

  function lost(rejections: readonly Rejection[]): void {
    outbox?.remove(rejections.map((entry) => entry.id))
    for (const { id: commandId, reason } of rejections) {
      notices.warn(`An edit was not kept, since another window came first: ${reason}`)
      remember(dropEdit(history.value, commandId))
    }
  }

  /** Sends what waits, in order, until nothing does. */
  async function flush(): Promise<void> {
    if (sending || !synced) return
    sending = true
    // One that the server can't take must not hold up the others: it is found by sending them one by one.
    let single = false
    try {
      while (synced && synced.pending.length > 0) {
        const batch = single ? synced.pending.slice(0, 1) : batchOf(synced.pending)
        const edits = batch.map(({ id: editId, command }) => ({ id: editId, command }))
        try {
          const { outcomes } = await api<{ outcomes: Outcome[] }>(`/projects/${id.value}/edits`, 'POST', {
            windowId: windowId(),
            edits,
          })
          offline.value = false
          full.value = false
          single = false
          await takeOutcomes(batch, outcomes)
          keptAt.value = new Date()
        } catch (error) {
          if (!(error instanceof ApiError) || error.status < 400 || error.status >= 500 || error.status === 404)
            throw error
          offline.value = false
          if (batch.length > 1) {
            single = true
            continue
          }
          const [bad] = batch
          lost([...synced!.drop(bad!.id), { ...bad!, reason: error.message }])
          publish()
        }
      }
    } catch (error) {
      if (error instanceof Offline) {
        offline.value = true
        setTimeout(() => void flush(), RETRY_MS)
      } else if (error instanceof ApiError) {
        offline.value = false
        // It is said beside the name for as long as it is so.
        if (error.status === DISK_FULL) full.value = true
        else notices.warn(error.message)
        if (error.status >= 500) setTimeout(() => void flush(), RETRY_MS * 4)
      } else throw error
    } finally {
      sending = false
    }
  }

  async function takeOutcomes(batch: readonly { id: string; command: Command }[], outcomes: Outcome[]): Promise<void> {
    if (!synced) return
    const rejections: Rejection[] = []
    let behind = false
    for (const outcome of outcomes) {
      const sent = batch.find((entry) => entry.id === outcome.id)!
      if ('refused' in outcome) rejections.push(...synced.drop(sent.id), { ...sent, reason: outcome.refused })
      else if ('nothing' in outcome) rejections.push(...synced.settle(sent.id))
      else if (!behind) behind = !synced.confirm(sent.id, outcome.seq)
    }
    outbox?.remove(outcomes.map((outcome) => outcome.id))
    if (behind) rejections.push(...(await catchUp()))
    lost(rejections)
    publish()
  }

  /** Brings in what the log has that this window lacks. */
  async function catchUp(): Promise<Rejection[]> {
    if (!synced) return []
    const { edits } = await api<{ edits: LoggedEdit[] }>(`/projects/${id.value}/edits?after=${synced.seq}`)
    offline.value = false
    try {
      const result = synced.receive(edits)
      if (result) return result
    } catch (error) {
      if (!(error instanceof Diverged)) throw error
    }
    const loaded = await api<Loaded>(`/projects/${id.value}`)
    return synced.reload(loaded.project, loaded.seq)
  }

  /** Number of the newest edit heard of. */
  let newest = 0
  let catching = false
  /** Another window, or the worker, has edited the project. */
  async function heardOfEdit(seq: number): Promise<void> {
    newest = Math.max(newest, seq)
    toldWhileOpening ||= !synced
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
      // Nobody may tell of it a second time.
      setTimeout(() => synced && newest > synced.seq && void heardOfEdit(newest), RETRY_MS)
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
        const loaded = await api<{ sources: typeof sources.value; pendingImports: PendingImport[] }>(
          `/projects/${id.value}/sources`,
        )
        sources.value = loaded.sources
        pendingImports.value = loaded.pendingImports
      } catch {
        setTimeout(refreshSources, RETRY_MS)
      }
    }, 250)
  }

  /** After a lost connection, and before the first, everything may have changed. */
  async function reconnect(): Promise<void> {
    toldWhileOpening ||= !synced
    refreshSources()
    if (synced) {
      lost(await catchUp().catch(() => []))
      publish()
    }
    await flush()
  }

  return {
    id,
    document,
    reelId,
    reel,
    sources,
    pendingImports,
    history,
    kept,
    offline,
    full,
    missing,
    waiting,
    open,
    close,
    perform,
    undo,
    undoStep,
    performAll,
    lastStep,
    redo,
    heardOfEdit,
    refreshSources,
    reconnect,
  }
})
