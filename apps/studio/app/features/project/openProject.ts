import { computed, ref, shallowRef } from 'vue'
import {
  CommandRefused,
  commandSchema,
  describeCommand,
  Diverged,
  reelsOf,
  SyncedDocument,
  type Command,
  type CommandInput,
  type LoggedEdit,
  type Patch,
  type Project,
  type Rejection,
} from '@dusk/timeline'
import { api } from '~/features/ui/api'
import { useNotices } from '~/features/ui/noticesStore'
import { EditSender } from './editSender'
import { Outbox } from './outbox'
import { RefusedEdits } from './refusedEdits'
import { SourceStates, type KnownSources } from './sourceStates'
import { StepHistory } from './stepHistory'

interface Loaded extends KnownSources {
  project: Project
  seq: number
  /** Parts of a damaged document that had to be left out. */
  leftOut: string[]
}

/** How long to wait for the answer to own edits before asking for others', in milliseconds. */
const OWN_FIRST_MS = 120
/** Pause before the server is asked again, in milliseconds. */
const RETRY_MS = 1500

/** `1 edit waits`, `3 edits wait`. */
const waits = (count: number) => `${count} ${count === 1 ? 'edit waits' : 'edits wait'}`

/**
 * A project that is open: its document with what waits to be sent, its history, its sources. It ends as one: whatever
 * it was waiting for then changes nothing any more.
 */
export class OpenProject {
  readonly document = shallowRef<Project | null>(null)
  readonly reelId = ref('')
  /** Why there is nothing to show, in words. */
  readonly missing = ref<string | null>(null)
  /** Own edits that are not on the server. */
  readonly waiting = ref(0)
  readonly states: SourceStates
  readonly history: StepHistory
  readonly refused: RefusedEdits
  readonly sender = shallowRef<EditSender | null>(null)
  /** Whether edits are on the server, in words. */
  readonly kept = computed(() => this.keptWords())
  private readonly ending = new AbortController()
  private readonly notices = useNotices()
  private readonly outbox: Outbox
  private synced: SyncedDocument | null = null
  private toldWhileOpening = false
  /** Number of the newest edit heard of. */
  private newest = 0
  private catching = false

  constructor(readonly id: string) {
    const { signal } = this.ending
    this.outbox = new Outbox(id)
    this.refused = new RefusedEdits(id)
    this.states = new SourceStates(id, signal)
    this.history = new StepHistory(id, (command, commandId) => this.carryOut(command, commandId), this.notices, signal)
  }

  get ended(): boolean {
    return this.ending.signal.aborted
  }

  /** Leaves it: what was not sent stays in this browser, and is sent when it is opened again. */
  end(): void {
    this.ending.abort()
  }

  /** Fetches it and carries out what an earlier page left unsent. */
  async begin(): Promise<void> {
    let loaded: Loaded
    try {
      loaded = await api<Loaded>(`/projects/${this.id}`)
    } catch (error) {
      if (!this.ended) this.missing.value = (error as Error).message
      return
    }
    if (this.ended) return
    const synced = new SyncedDocument(loaded.project, loaded.seq)
    this.states.take(loaded)
    if (loaded.leftOut.length > 0)
      this.notices.warn(`Parts of this project were damaged and are left out: ${loaded.leftOut.join('; ')}`)
    const [{ sent, unreadable }] = await Promise.all([
      this.outbox.load().catch(() => ({ sent: [], unreadable: 0 })),
      this.refused.load(),
    ])
    if (this.ended) return
    this.synced = synced
    if (unreadable > 0) this.notices.warn('An edit from before could not be kept: this version does not know it.')
    for (const edit of sent) this.performAgain(synced, edit)
    const sending = {
      synced,
      done: (ids: readonly string[]) => this.outbox.remove(ids),
      lost: (rejections: readonly Rejection[]) => this.lost(rejections),
      catchUp: () => this.catchUp(),
      changed: () => this.publish(),
    }
    this.sender.value = new EditSender(this.id, sending, this.ending.signal)
    this.reelId.value = reelsOf(synced.project)[0]?.id ?? ''
    this.publish()
    // What was told while the document was on its way may not be in it.
    if (this.toldWhileOpening) void this.reconnect()
    else void this.flush()
  }

  /** An edit that a closed tab or a lost server left unsent. */
  private performAgain(synced: SyncedDocument, edit: { id: string; command: Command }): void {
    try {
      this.history.keep(edit.id, synced.perform(edit).patches)
    } catch (error) {
      if (!(error instanceof CommandRefused)) throw error
      this.outbox.remove([edit.id])
      this.lost([{ ...edit, reason: error.message }])
    }
  }

  private keptWords(): string {
    const waiting = this.waiting.value
    const { full, offline, blocked, keptAt } = this.sender.value ?? {}
    if (full?.value) return `the disk is full: ${waits(waiting)} for room`
    if (blocked?.value && waiting > 0) return `${blocked.value}: ${waits(waiting)} in this browser`
    if (offline?.value) return waiting > 0 ? `${waits(waiting)} for the server` : 'the server does not answer'
    if (waiting > 0) return 'keeping…'
    const time = keptAt?.value?.toLocaleTimeString([], { hour: '2-digit', minute: '2-digit', hour12: false })
    return time ? `every edit kept ${time}` : 'every edit kept'
  }

  private publish(): void {
    if (!this.synced || this.ended) return
    this.document.value = this.synced.project
    this.waiting.value = this.synced.pending.length
  }

  private flush(): Promise<void> {
    return this.sender.value?.flush() ?? Promise.resolve()
  }

  /** Carries out a command without touching the history. Returns what changed, or `null` when it was refused. */
  private carryOut(command: Command, commandId: string): Patch[] | null {
    if (!this.synced || this.ended) return null
    try {
      const applied = this.synced.perform({ id: commandId, command })
      this.outbox.add({ id: commandId, command })
      this.publish()
      void this.flush()
      return applied.patches
    } catch (error) {
      if (!(error instanceof CommandRefused)) throw error
      this.notices.warn(error.message)
      return null
    }
  }

  /**
   * An edit of the person's.
   * @param run names a run of edits that belong together
   * @returns whether it was carried out
   */
  perform(input: CommandInput, run?: string): boolean {
    const parsed = commandSchema.safeParse(input)
    if (!parsed.success) {
      // What was typed or dragged lies beyond what the document holds, such as a length of a thousand years.
      const [issue] = parsed.error.issues
      const sizes: Record<string, string> = {
        too_big: 'that is more than a reel can hold',
        too_small: 'that is too little',
      }
      const words = sizes[issue!.code] ?? `${String(issue!.path.at(-1) ?? input.type)} — ${issue!.message}`
      this.notices.warn(`This can’t be kept: ${words}.`)
      return false
    }
    const commandId = crypto.randomUUID()
    const began = performance.now()
    const done = this.carryOut(parsed.data, commandId)
    performance.measure('command', { start: began, detail: parsed.data.type })
    if (!done) return false
    if (done.length > 0) this.history.add(commandId, describeCommand(parsed.data), done, run)
    return true
  }

  private lost(rejections: readonly Rejection[]): void {
    if (rejections.length === 0) return
    this.outbox.remove(rejections.map((entry) => entry.id))
    for (const rejection of rejections) {
      this.refused.add(rejection)
      this.history.forget(rejection.id)
      if (!this.ended) this.notices.warn(`An edit was not kept: ${rejection.reason}`)
    }
  }

  /** Brings in what the log has that this window lacks. */
  private async catchUp(): Promise<Rejection[]> {
    const { synced } = this
    if (!synced) return []
    const { edits } = await api<{ edits: LoggedEdit[] }>(`/projects/${this.id}/edits?after=${synced.seq}`)
    this.sender.value?.answered()
    try {
      const result = synced.receive(edits)
      if (result) return result
    } catch (error) {
      if (!(error instanceof Diverged)) throw error
    }
    const loaded = await api<Loaded>(`/projects/${this.id}`)
    return synced.reload(loaded.project, loaded.seq)
  }

  /** Another window, or the worker, has edited the project. */
  async heardOfEdit(seq: number): Promise<void> {
    this.newest = Math.max(this.newest, seq)
    this.toldWhileOpening ||= !this.synced
    const { synced } = this
    if (!synced || this.catching || this.ended) return
    this.catching = true
    try {
      while (!this.ended && this.newest > synced.seq) {
        // What is on its way from here comes back with its answer: only the rest has to be fetched, and once for all.
        if (this.sender.value?.sending) {
          await new Promise((resolve) => setTimeout(resolve, OWN_FIRST_MS))
          if (this.ended || this.newest <= synced.seq) break
        }
        this.lost(await this.catchUp())
        this.publish()
      }
    } catch {
      // Nobody may tell of it a second time.
      setTimeout(() => !this.ended && this.newest > synced.seq && void this.heardOfEdit(this.newest), RETRY_MS)
    } finally {
      this.catching = false
    }
  }

  /** After a lost connection, and before the first, everything may have changed. */
  async reconnect(): Promise<void> {
    this.toldWhileOpening ||= !this.synced
    this.states.refresh()
    if (this.synced) {
      this.lost(await this.catchUp().catch(() => []))
      this.publish()
    }
    await this.flush()
  }
}
