import { ref, shallowRef } from 'vue'
import type { Command, Rejection, SyncedDocument } from '@dusk/timeline'
import { api, ApiError, DISK_FULL, Offline } from '~/features/ui/api'
import { windowId } from '~/features/ui/windowId'
import { batchOf } from './outbox'

type Outcome = { id: string; seq: number } | { id: string; nothing: true } | { id: string; refused: string }
type Sent = { id: string; command: Command }

/** Pauses before what waits is sent again, in milliseconds. */
const RETRY_MS = 1500
const LATER_MS = 6000

/** Answers that are a verdict on an edit: too large, or not to be understood. All others are no fault of its own. */
const VERDICTS = [413, 422]

/** What edits wait for that no sending again helps by itself, in words. */
function blockedBy({ status, message }: ApiError): string {
  switch (status) {
    case 401:
      return 'this browser must be let in again'
    case 403:
    case 421:
      return 'the studio does not take edits from this address'
    case 404:
      return 'the project is not there: it was put away, and can be brought back'
    case 429:
      return 'the studio has too much to do'
    default:
      return message
  }
}

/** What the sender asks of the project that it sends for. */
export interface Sending {
  synced: SyncedDocument
  /** Edits that are on the server, or were refused, and need no longer be kept here. */
  done(ids: readonly string[]): void
  /** Own edits that were not kept. */
  lost(rejections: readonly Rejection[]): void
  /** Brings in what the log has that this window lacks. */
  catchUp(): Promise<Rejection[]>
  /** The document, or what is pending, is another one. */
  changed(): void
}

/** Sends a project's edits to the server in their order, and waits where it can't. */
export class EditSender {
  readonly keptAt = shallowRef<Date | null>(null)
  readonly offline = ref(false)
  /** The server answers, and has no room to keep anything. */
  readonly full = ref(false)
  /** Why edits wait though the server answers, in words; `null` where they do not. */
  readonly blocked = ref<string | null>(null)
  /** Whether edits are on their way. */
  sending = false
  private timer: ReturnType<typeof setTimeout> | null = null

  /** @param signal aborted once the project is left: what was not sent stays in the outbox */
  constructor(
    private readonly projectId: string,
    private readonly project: Sending,
    private readonly signal: AbortSignal,
  ) {
    signal.addEventListener('abort', () => this.timer && clearTimeout(this.timer))
  }

  /** The server has answered. */
  answered(): void {
    this.offline.value = false
  }

  /** Sends what waits until nothing does. */
  async flush(): Promise<void> {
    if (this.sending || this.signal.aborted) return
    this.sending = true
    try {
      await this.sendAll()
    } catch (error) {
      if (!this.signal.aborted) this.wait(error)
    } finally {
      this.sending = false
    }
  }

  private async sendAll(): Promise<void> {
    const { synced } = this.project
    // One that the server can't take must not hold up the others: it is found by sending them one by one.
    let single = false
    while (!this.signal.aborted && synced.pending.length > 0) {
      const batch = single ? synced.pending.slice(0, 1) : batchOf(synced.pending)
      try {
        const { outcomes } = await api<{ outcomes: Outcome[] }>(`/projects/${this.projectId}/edits`, 'POST', {
          windowId: windowId(),
          edits: batch.map(({ id, command }) => ({ id, command })),
        })
        // They are on the server: even where the project was left meanwhile, they need not be sent again.
        this.project.done(outcomes.map(({ id }) => id))
        if (this.signal.aborted) return
        this.offline.value = this.full.value = false
        this.blocked.value = null
        single = false
        await this.take(batch, outcomes)
        this.keptAt.value = new Date()
      } catch (error) {
        if (!(error instanceof ApiError) || !VERDICTS.includes(error.status)) throw error
        if (this.signal.aborted) return
        this.offline.value = false
        if (batch.length > 1) {
          single = true
          continue
        }
        const [bad] = batch
        this.project.done([bad!.id])
        this.project.lost([...synced.drop(bad!.id), { ...bad!, reason: error.message }])
        this.project.changed()
      }
    }
  }

  private async take(batch: readonly Sent[], outcomes: readonly Outcome[]): Promise<void> {
    const { synced } = this.project
    const rejections: Rejection[] = []
    let behind = false
    for (const outcome of outcomes) {
      const sent = batch.find((entry) => entry.id === outcome.id)!
      if ('refused' in outcome) rejections.push(...synced.drop(sent.id), { ...sent, reason: outcome.refused })
      else if ('nothing' in outcome) rejections.push(...synced.settle(sent.id))
      else if (!behind) behind = !synced.confirm(sent.id, outcome.seq)
    }
    if (behind) rejections.push(...(await this.project.catchUp()))
    if (this.signal.aborted) return
    this.project.lost(rejections)
    this.project.changed()
  }

  /** What was to be sent waits, and is sent again. */
  private wait(error: unknown): void {
    if (error instanceof Offline) {
      this.offline.value = true
      return this.again(RETRY_MS)
    }
    if (!(error instanceof ApiError)) throw error
    this.offline.value = false
    // It is said beside the name for as long as it is so.
    this.full.value = error.status === DISK_FULL
    this.blocked.value = this.full.value ? null : blockedBy(error)
    this.again(LATER_MS)
  }

  private again(after: number): void {
    if (this.timer) clearTimeout(this.timer)
    this.timer = setTimeout(() => void this.flush(), after)
  }
}
