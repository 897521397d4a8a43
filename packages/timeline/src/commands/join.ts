import { z } from 'zod'
import { playedBy, type Clip } from '../document/clip'
import { clipEnd } from '../document/query'
import { sameData } from '../document/sameData'
import { idSchema } from '../document/values'
import type { Edit } from '../edit/edit'
import { dropLoneLinks, grainOf, openTrack } from '../edit/lanes'
import { refuse } from '../edit/refuse'
import { sourceTimeAt } from '../evaluate/timeMap'
import { defineCommand } from './define'

/** Whether `right` goes on where `left` ends: same track, same source, no time between, the next moment of it. */
export function continues(edit: Edit, left: Clip, right: Clip): boolean {
  if (left.trackId !== right.trackId || clipEnd(left) !== right.start) return false
  if (playedBy(left) !== playedBy(right) || left.stream !== right.stream || !sameSpeeds(left, right)) return false
  const gap = Math.abs(sourceTimeAt(right, right.start) - sourceTimeAt(left, right.start))
  return gap <= grainOf(edit, edit.need('tracks', left.trackId)) / 2
}

/** Whether one map would do for two clips that touch: one speed, or one curve that goes on. */
function sameSpeeds(left: Clip, right: Clip): boolean {
  const [a, b] = [left.map, right.map]
  if (a.kind === 'constant' && b.kind === 'constant') return a.speed === b.speed
  return a.kind === b.kind && (a.kind === 'freeze' || (sameData(a, b) && left.head + left.length === right.head))
}

/** Makes one clip of two that go on from each other, such as the halves of a split, and likewise of their partners. */
export const join = defineCommand({
  schema: z.object({ type: z.literal('join'), leftId: idSchema, rightId: idSchema }),
  apply(edit, { leftId, rightId }) {
    const [left, right] = [edit.need('clips', leftId), edit.need('clips', rightId)]
    openTrack(edit, left.trackId)
    if (!continues(edit, left, right))
      refuse('touch', 'Only two clips that touch and go on in the same source can be joined.', [leftId, rightId])
    const pairs: [Clip, Clip][] = [[left, right]]
    const lefts = left.link ? edit.linkedTo(left.link) : []
    const rights = right.link ? edit.linkedTo(right.link) : []
    for (const a of lefts)
      for (const b of rights) {
        if (a.id === left.id || !continues(edit, a, b)) continue
        openTrack(edit, a.trackId)
        pairs.push([a, b])
      }
    for (const [a, b] of pairs) {
      const later = a.head + a.length - b.head
      for (const marker of edit.all('markers'))
        if (marker.clipId === b.id) edit.put('markers', { ...marker, clipId: a.id, at: marker.at + later })
      for (const transition of edit.all('transitions')) {
        if (transition.leftId === a.id && transition.rightId === b.id) edit.remove('transitions', transition.id)
        else if (transition.leftId === b.id) edit.put('transitions', { ...transition, leftId: a.id })
      }
      edit.patchClip(a.id, { length: a.length + b.length })
      edit.remove('clips', b.id)
    }
    dropLoneLinks(edit, [left.link, right.link])
  },
  describe: () => 'Joined two clips',
})
