/** A step that can be taken back: the edit it was, by its id, and its name. What it changed lies in the log. */
export interface HistoryStep {
  id: string
  label: string
}

/** Steps done and undone in one window, newest last. Plain data, so it survives a reload. */
export interface History {
  done: readonly HistoryStep[]
  undone: readonly HistoryStep[]
}

export const EMPTY_HISTORY: History = { done: [], undone: [] }

/** How many steps a window remembers. */
export const HISTORY_LIMIT = 500

/** History after a fresh step: what was undone can no longer be done again. */
export function pushStep(history: History, step: HistoryStep): History {
  return { done: [...history.done, step].slice(-HISTORY_LIMIT), undone: [] }
}

/** The step to take back next and the history after it; `null` with nothing to undo. */
export function takeUndo({ done, undone }: History): { step: HistoryStep; history: History } | null {
  const step = done.at(-1)
  return step ? { step, history: { done: done.slice(0, -1), undone: [...undone, step] } } : null
}

/** The undone step to do again next and the history after it; `null` with none. */
export function takeRedo({ done, undone }: History): { step: HistoryStep; history: History } | null {
  const step = undone.at(-1)
  return step ? { step, history: { done: [...done, step], undone: undone.slice(0, -1) } } : null
}

/** The history without a step that can no longer be taken back. */
export function dropStep({ done, undone }: History, id: string): History {
  return { done: done.filter((step) => step.id !== id), undone: undone.filter((step) => step.id !== id) }
}
