import type { Clip } from '../document/clip'
import { clipEnd } from '../document/query'
import { sourceOf } from '../document/source'
import type { Transition } from '../document/transition'
import { reachOf } from '../evaluate/timeMap'
import type { Edit } from './edit'
import { grainOf } from './lanes'

/** Rounds to whole steps of a grid without leaving a division's hair. */
const onGrid = (ticks: number, grain: number) => Math.max(0, Math.round(Math.round(ticks / grain) * grain))
const downTo = (ticks: number, grain: number) => Math.max(0, Math.round(Math.floor(ticks / grain + 1e-6) * grain))

/** Ticks of the reel that a clip could go on before its start and after its end; `Infinity` where nothing ends it. */
export function handlesOf(edit: Edit, clip: Clip): { before: number; after: number } {
  const held = sourceOf(edit, clip)?.length ?? 0
  const { before, after } = reachOf(clip, held)
  return { before: Math.max(0, before), after: Math.max(0, after) }
}

/**
 * How long a transition can be on each side of its cut, in ticks on the track's grid.
 * @param missing with `shorten`, hidden footage limits it; with `hold`, only the clips' own lengths do
 */
export function transitionRoom(
  edit: Edit,
  left: Clip | null,
  right: Clip | null,
  missing: Transition['missing'],
): { before: number; after: number } {
  const grain = grainOf(edit, edit.need('tracks', (left ?? right)!.trackId))
  let before = left ? left.length : 0
  let after = right ? right.length : 0
  if (left && right && missing === 'shorten') {
    before = Math.min(before, handlesOf(edit, right).before)
    after = Math.min(after, handlesOf(edit, left).after)
  }
  return { before: downTo(before, grain), after: downTo(after, grain) }
}

/**
 * Keeps transitions true after a change: they stay on their cut, go with their clips, are shortened to what their
 * clips now hold, and leave when a clip they join is gone or no longer touches the other.
 */
export function settleTransitions(edit: Edit): void {
  const mine: Transition[] = []
  for (const transition of edit.all('transitions')) mine.push(transition)
  if (mine.length === 0) return
  const placed: { transition: Transition; left: Clip | null; right: Clip | null }[] = []
  for (const transition of mine) {
    const found = sidesOf(edit, transition)
    if (!found) edit.remove('transitions', transition.id)
    else placed.push({ transition, ...found })
  }
  // Two on one edge: the one that was there stays.
  const edges = new Set<string>()
  const used = new Map<string, number>()
  for (const { transition, left, right } of placed) {
    const names = [left && `end ${left.id}`, right && `start ${right.id}`].filter((name) => name !== null)
    if (names.some((name) => edges.has(name))) {
      edit.remove('transitions', transition.id)
      continue
    }
    for (const name of names) edges.add(name)
    const next = fitted(edit, transition, left, right, used)
    if (!next) edit.remove('transitions', transition.id)
    else if (!same(next, transition)) edit.put('transitions', next)
  }
}

function same(a: Transition, b: Transition): boolean {
  return (
    a.trackId === b.trackId &&
    a.leftId === b.leftId &&
    a.rightId === b.rightId &&
    a.before === b.before &&
    a.after === b.after &&
    a.missing === b.missing
  )
}

/** The clips a transition joins now, or `null` when it has nothing to join any more. */
function sidesOf(edit: Edit, { leftId, rightId }: Transition): { left: Clip | null; right: Clip | null } | null {
  let left = leftId ? (edit.get('clips', leftId) ?? null) : null
  let right = rightId ? (edit.get('clips', rightId) ?? null) : null
  if (!leftId || !rightId) return left || right ? { left, right } : null
  // When one of the two is gone, the cut is kept if another clip now touches there.
  if (!left && right) left = neighbour(edit, right, -1)
  else if (left && !right) right = neighbour(edit, left, 1)
  if (!left || !right) return null
  if (left.trackId === right.trackId && clipEnd(left) === right.start) return { left, right }
  if (left.trackId === right.trackId && clipEnd(right) === left.start) return { left: right, right: left }
  return null
}

/** The clip that touches another on its track. */
function neighbour(edit: Edit, clip: Clip, side: 1 | -1): Clip | null {
  const lane = edit.clipsOn(clip.trackId)
  const other = lane[lane.findIndex((candidate) => candidate.id === clip.id) + side]
  if (!other) return null
  const touches = side === 1 ? clipEnd(clip) === other.start : clipEnd(other) === clip.start
  return touches ? other : null
}

/** A transition with its lengths cut to what there is; `used` counts what others already take of each clip. */
function fitted(
  edit: Edit,
  transition: Transition,
  left: Clip | null,
  right: Clip | null,
  used: Map<string, number>,
): Transition | null {
  const track = edit.need('tracks', (left ?? right)!.trackId)
  const grain = grainOf(edit, track)
  let { missing } = transition
  let room = transitionRoom(edit, left, right, missing)
  if (room.before + room.after < grain && missing === 'shorten') {
    // Nothing hidden is left on either side: the edge frames are held rather than the transition lost.
    missing = 'hold'
    room = transitionRoom(edit, left, right, missing)
  }
  const free = (clip: Clip | null) => (clip ? downTo(clip.length - (used.get(clip.id) ?? 0), grain) : 0)
  // The whole is rounded, not its halves: a second stays a second where half of it is no whole number of frames.
  const total = onGrid(transition.before + transition.after, grain)
  const first = Math.min(onGrid(transition.before, grain), total)
  const before = Math.min(first, room.before, free(left))
  const after = Math.min(total - first, room.after, free(right))
  if (before + after < Math.round(grain)) return null
  if (left) used.set(left.id, (used.get(left.id) ?? 0) + before)
  if (right) used.set(right.id, (used.get(right.id) ?? 0) + after)
  return {
    ...transition,
    trackId: track.id,
    leftId: left?.id ?? null,
    rightId: right?.id ?? null,
    before,
    after,
    missing,
  }
}
