/** A step that can be taken back: the edit it was, by its id, and its name. What it changed lies in the log. */
export interface HistoryStep {
  id: string
  label: string
  /** Later edits that belong to the same gesture, oldest first: they are taken back together. */
  more?: readonly string[]
}

/** Ids of all edits of a step, oldest first. */
export const editsOf = ({ id, more = [] }: HistoryStep): readonly string[] => [id, ...more]

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

/** History in which an edit belongs to the last step, as one gesture. */
export function joinStep({ done }: History, id: string): History {
  const last = done.at(-1)
  return { done: last ? [...done.slice(0, -1), { ...last, more: [...(last.more ?? []), id] }] : [], undone: [] }
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

/** The history without an edit that was not kept; what else belongs to its step stays. */
export function dropEdit({ done, undone }: History, id: string): History {
  const without = (steps: readonly HistoryStep[]) =>
    steps.flatMap((step) => {
      const edits = editsOf(step)
      if (!edits.includes(id)) return [step]
      const [first, ...more] = edits.filter((edit) => edit !== id)
      return first === undefined ? [] : [{ id: first, label: step.label, ...(more.length > 0 ? { more } : {}) }]
    })
  return { done: without(done), undone: without(undone) }
}
