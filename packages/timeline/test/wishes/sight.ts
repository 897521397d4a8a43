import { clipEnd, type Clip, type CommandInput, type Project } from '../../src/index'
import { f, uuid } from '../helpers'

/** Kinds of commands that somebody at the desk may wish for; undo and redo are wishes of their own. */
export type Type = Exclude<CommandInput['type'], 'restore'>

/** A wish for a command; its numbers become entities that are there, and times, when its turn comes. */
export interface Wish {
  type: Type | 'undo' | 'redo'
  pick: number
  other: number
  at: number
  length: number
  mode: 'free' | 'insert' | 'push' | 'over'
  flag: boolean
}

/** What a wish finds in a document: what its numbers point at, and ids of what there is. */
export function seen(project: Project, reelId: string, w: Wish) {
  const clips = Object.values(project.clips)
  const tracks = Object.values(project.tracks)
  const markers = Object.values(project.markers)
  const one = <T>(list: readonly T[], n: number): T | null => list[n % Math.max(list.length, 1)] ?? null
  const clip = one(clips, w.pick)
  const follows = (left: Clip) => (other: Clip) => other.trackId === left.trackId && other.start === clipEnd(left)
  return {
    ...{ w, project, reelId, clips, tracks, clip, track: one(tracks, w.other), other: one(clips, w.other) },
    next: (clip && clips.find(follows(clip))) ?? null,
    scope: (['track', 'unlocked', 'all'] as const)[w.other % 3]!,
    marker: one(markers, w.pick),
    folders: Object.keys(project.folders),
    transitions: Object.keys(project.transitions),
    effects: Object.keys(project.effects),
    // An odd tick now and then: commands have to bring everything onto its grid themselves.
    at: f(w.at) + (w.flag ? 7_351 : 0),
  }
}

let ids = 0x10_0000
/** An id that nothing has yet, with so many after it left free. */
export const freshId = (room = 1): string => uuid((ids += room))

/** What {@link seen} finds. */
export type Sight = ReturnType<typeof seen>

/** How each kind of command is wished for; null where the document has nothing that it could be done to. */
export type Makers = {
  [T in Type]: (sight: Sight) => Extract<CommandInput, { type: T }> | null
}
