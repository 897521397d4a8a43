import { shallowRef } from 'vue'
import {
  dropEdit,
  dropStep,
  editsOf,
  EMPTY_HISTORY,
  joinStep,
  pushStep,
  redoCommand,
  takeRedo,
  takeUndo,
  undoCommand,
  type Command,
  type History,
  type HistoryStep,
  type Patch,
} from '@dusk/timeline'
import { ApiError } from '~/features/ui/api'
import type { useNotices } from '~/features/ui/noticesStore'
import { UndoPatches } from './undoPatches'

/** Milliseconds within which an edit of a run belongs to the one before it. */
const RUN = 1000

type Taken = { step: HistoryStep; history: History }

/** What this window has done to a project and can take back; it outlives a reload of the page. */
export class StepHistory {
  readonly steps = shallowRef<History>(EMPTY_HISTORY)
  private readonly patches = new UndoPatches()
  private readonly key: string
  /** The run of edits that is under way. */
  private running: { name: string; step: string; until: number } | null = null
  private stepping = false

  /**
   * @param carryOut carries out a command without touching the history; `null` when it was refused
   * @param signal aborted once the project is left
   */
  constructor(
    private readonly projectId: string,
    private readonly carryOut: (command: Command, id: string) => Patch[] | null,
    private readonly notices: ReturnType<typeof useNotices>,
    private readonly signal: AbortSignal,
  ) {
    this.key = `history:${projectId}`
    try {
      this.steps.value = JSON.parse(sessionStorage.getItem(this.key) ?? 'null') ?? EMPTY_HISTORY
    } catch {
      this.steps.value = EMPTY_HISTORY
    }
  }

  /** Id of the step that would be taken back next. */
  get last(): string | null {
    return this.steps.value.done.at(-1)?.id ?? null
  }

  /** Keeps what an edit changed, without a step of its own: one that was sent by an earlier page. */
  keep(editId: string, patches: Patch[]): void {
    this.patches.keep(editId, patches)
  }

  /** An edit that was carried out. @param run names the run that it belongs to, if it does */
  add(editId: string, label: string, patches: Patch[], run?: string): void {
    this.patches.keep(editId, patches)
    const now = performance.now()
    const { running } = this
    const goesOn = run !== undefined && running?.name === run && running.step === this.last && now < running.until
    if (goesOn) this.remember(joinStep(this.steps.value, editId))
    else this.remember(pushStep(this.steps.value, { id: editId, label }))
    this.running = run === undefined ? null : { name: run, step: this.last!, until: now + RUN }
  }

  /** Takes the last step back; its patches come from the log where the page no longer has them. */
  undo(): void {
    const taken = takeUndo(this.steps.value)
    if (taken) this.step(taken, true, undoCommand)
  }

  redo(): void {
    const taken = takeRedo(this.steps.value)
    if (taken) this.step(taken, false, redoCommand)
  }

  /** Forgets an edit that was not kept; what else belongs to its step stays. */
  forget(editId: string): void {
    this.remember(dropEdit(this.steps.value, editId))
  }

  private remember(next: History): void {
    this.steps.value = next
    sessionStorage.setItem(this.key, JSON.stringify(next))
  }

  private step(taken: Taken, back: boolean, command: (label: string, known: readonly Patch[]) => Command): void {
    const { id: stepId, label } = taken.step
    // What was changed last is taken back first.
    const ids = back ? editsOf(taken.step).toReversed() : editsOf(taken.step)
    const act = (known: readonly (readonly Patch[])[]) => {
      if (this.carryOut(command(label, known.flat()), crypto.randomUUID())) this.remember(taken.history)
      else this.remember(dropStep(this.steps.value, stepId))
    }
    const known = ids.map((editId) => this.patches.known(editId))
    if (known.every((one) => one !== null)) return act(known)
    if (this.stepping) return
    this.stepping = true
    const before = this.steps.value
    Promise.all(ids.map((editId) => this.patches.fetch(this.projectId, editId)))
      .then(
        (found) => {
          // The project was left, or something else was done meanwhile: the step is no longer the last.
          if (!this.signal.aborted && this.steps.value === before) act(found)
        },
        (error: Error) => {
          if (this.signal.aborted) return
          this.notices.warn(`“${label}” can’t be taken back any more: ${error.message}`)
          if (error instanceof ApiError) this.remember(dropStep(this.steps.value, stepId))
        },
      )
      .finally(() => (this.stepping = false))
  }
}
