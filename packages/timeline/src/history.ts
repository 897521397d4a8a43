import { describeCommand, type Applied, type Command } from './commands/index'
import { reverseRestore, undoOf, type RestoreCommand } from './commands/restore'
import type { Project } from './document/project'

/** A step that can be taken back: its name, and the restore that does so. */
export interface HistoryStep {
  /** Id of the command that was carried out. */
  id: string
  label: string
  undo: RestoreCommand
}

/** Steps done and undone in one window, newest last. Plain data, so it survives a reload. */
export interface History {
  done: HistoryStep[]
  undone: HistoryStep[]
}

export const EMPTY_HISTORY: History = { done: [], undone: [] }

/** How many steps a window remembers. */
export const HISTORY_LIMIT = 500

/** The step for a command just carried out on `before`. */
export function stepFor(command: Command, id: string, before: Project, applied: Applied): HistoryStep {
  const name = before.name === applied.project.name ? undefined : { from: before.name, to: applied.project.name }
  const label = describeCommand(command)
  return { id, label, undo: undoOf(applied.changes, label, name) }
}

/** History after a fresh step: what was undone can no longer be done again. */
export function pushStep(history: History, step: HistoryStep): History {
  return { done: [...history.done, step].slice(-HISTORY_LIMIT), undone: [] }
}

/** The command that takes the last step back and the history after it; `null` with nothing to undo. */
export function planUndo(history: History): { command: RestoreCommand; history: History } | null {
  const step = history.done.at(-1)
  if (!step) return null
  return {
    command: { ...step.undo, label: `Took back: ${step.label}` },
    history: { done: history.done.slice(0, -1), undone: [...history.undone, step] },
  }
}

/** The command that does the last undone step again. */
export function planRedo(history: History): { command: RestoreCommand; history: History } | null {
  const step = history.undone.at(-1)
  if (!step) return null
  return {
    command: reverseRestore(step.undo, `Did again: ${step.label}`),
    history: { done: [...history.done, step], undone: history.undone.slice(0, -1) },
  }
}
