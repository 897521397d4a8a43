import type { Transition } from '../document/transition'
import { clipEnd } from '../document/query'
import { snapToFrame, snapToSample } from '../time/ticks'
import { defineRule, type RuleView, type Touched } from './rule'

/** Transitions join clips that touch, lie inside them without overlapping each other, and sit on the grid. */
export const transitions = defineRule({
  name: 'transition',
  about: ['transitions', 'clips', 'tracks', 'reels'],
  time: true,
  check(view, touched, broken) {
    const taken = new Map<string, number>()
    const edges = new Set<string>()
    for (const transition of view.all('transitions')) {
      const { id, leftId, rightId, trackId, before, after } = transition
      const left = leftId ? view.get('clips', leftId) : null
      const right = rightId ? view.get('clips', rightId) : null
      if (left === undefined || right === undefined || (!left && !right) || !view.get('tracks', trackId)) {
        broken('A transition joins a clip that is no longer there.', id)
        continue
      }
      for (const edge of [left && `end ${left.id}`, right && `start ${right.id}`]) {
        if (!edge) continue
        if (edges.has(edge)) broken('Two transitions can’t lie on one edge.', id)
        edges.add(edge)
      }
      if (left) taken.set(left.id, (taken.get(left.id) ?? 0) + before)
      if (right) taken.set(right.id, (taken.get(right.id) ?? 0) + after)
      if (!concerned(view, touched, transition)) continue
      for (const clip of [left, right])
        if (clip && clip.trackId !== trackId) broken('A transition has to lie on the track of its clips.', id)
      if (left && right && clipEnd(left) !== right.start) broken('A transition joins clips that touch.', id)
      if ((!left && before > 0) || (!right && after > 0)) broken('A transition can’t reach past its only clip.', id)
      if (before + after <= 0) broken('A transition has to have a length.', id)
      const at = right ? right.start : clipEnd(left!)
      if (offGrid(view, trackId, at - before) || offGrid(view, trackId, at + after))
        broken('A transition would lie between two frames.', id)
    }
    for (const [id, length] of taken)
      if (length > view.get('clips', id)!.length) broken('Transitions can’t overlap inside a clip.', id)
  },
})

function concerned(view: RuleView, touched: Touched, { id, leftId, rightId, trackId }: Transition): boolean {
  const reelId = view.get('tracks', trackId)?.reelId
  return (
    touched.has('transitions', id) ||
    touched.has('tracks', trackId) ||
    (leftId !== null && touched.has('clips', leftId)) ||
    (rightId !== null && touched.has('clips', rightId)) ||
    (reelId !== undefined && touched.has('reels', reelId))
  )
}

function offGrid(view: RuleView, trackId: string, tick: number): boolean {
  const track = view.get('tracks', trackId)!
  const rate = view.get('reels', track.reelId)?.format.rate
  if (!rate) return false
  const off = (at: number) => (track.kind === 'sound' ? snapToSample(at) : snapToFrame(at, rate)) !== at
  // Lengths are whole frames; where frames are no whole number of ticks, each end rounds by itself.
  const hair = track.kind === 'picture' ? 1 : 0
  return off(tick) && ![tick - hair, tick + hair].some((near) => !off(near))
}
