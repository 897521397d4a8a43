import type { TitleRun } from '../document/title'

/**
 * Runs of a text that was edited: what lies behind the change moves with it, what lies in it is cut, and letters typed
 * inside a run or right behind it belong to it.
 */
export function shiftRuns(runs: readonly TitleRun[], before: string, after: string): TitleRun[] {
  let start = 0
  const least = Math.min(before.length, after.length)
  while (start < least && before[start] === after[start]) start++
  let same = 0
  while (same < least - start && before[before.length - 1 - same] === after[after.length - 1 - same]) same++
  const end = before.length - same
  const by = after.length - before.length
  const land = (at: number, isEnd: boolean) => {
    if (at < start || (at === start && !isEnd)) return at
    // The end of a run at the place of typing takes the new letters in.
    if (at >= end) return at + by
    return isEnd ? after.length - same : start
  }
  return runs
    .map((run) => ({ ...run, from: land(run.from, false), to: land(run.to, true) }))
    .filter((run) => run.to > run.from)
}

/** Runs with a style put on a range; runs that it covers wholly lose what it sets anew. */
export function styleRange(runs: readonly TitleRun[], from: number, to: number, style: TitleRun['style']): TitleRun[] {
  const kept = runs.flatMap((run) => {
    if (run.from < from || run.to > to) return [run]
    const rest = Object.fromEntries(Object.entries(run.style).filter(([key]) => !(key in style)))
    return Object.keys(rest).length > 0 ? [{ ...run, style: rest }] : []
  })
  const alike = kept.find((run) => run.from === from && run.to === to)
  if (alike) return kept.map((run) => (run === alike ? { ...run, style: { ...run.style, ...style } } : run))
  return [...kept, { from, to, style }]
}
