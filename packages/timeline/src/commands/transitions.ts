import { z } from 'zod'
import type { Clip } from '../document/clip'
import { clipEnd } from '../document/query'
import { transitionSchema, type Transition } from '../document/transition'
import { idSchema } from '../document/values'
import type { Edit } from '../edit/edit'
import { grainOf, openTrack } from '../edit/lanes'
import { refuse } from '../edit/refuse'
import { transitionRoom } from '../edit/transitions'
import { count, defineCommand } from './define'

/** The clips of a transition to be, checked. */
function sides(edit: Edit, transition: Pick<Transition, 'leftId' | 'rightId'>): [Clip | null, Clip | null] {
  const left = transition.leftId ? edit.need('clips', transition.leftId) : null
  const right = transition.rightId ? edit.need('clips', transition.rightId) : null
  const track = openTrack(edit, (left ?? right ?? refuse('kind', 'A transition needs a clip.')).trackId)
  if (left && right && (left.trackId !== right.trackId || clipEnd(left) !== right.start))
    refuse('touch', `A transition joins two clips that touch on ${track.name}. Close the gap between them first.`, [
      left.id,
      right.id,
    ])
  return [left, right]
}

/**
 * Puts transitions on cuts, or on the start or end of single clips. One that is there gives way. Too little hidden
 * footage shortens it or holds the edge frame, as it says; with none at all it is refused when it says `shorten`.
 */
export const addTransitions = defineCommand({
  schema: z.object({
    type: z.literal('addTransitions'),
    transitions: z
      .array(transitionSchema.omit({ trackId: true }))
      .min(1)
      .max(5000),
  }),
  apply(edit, { transitions }) {
    const ends = new Map<string, string>()
    for (const old of edit.all('transitions')) {
      if (old.leftId) ends.set(`end ${old.leftId}`, old.id)
      if (old.rightId) ends.set(`start ${old.rightId}`, old.id)
    }
    for (const wanted of transitions) {
      if (edit.get('transitions', wanted.id)) refuse('id', 'That transition is already there.', [wanted.id])
      const [left, right] = sides(edit, wanted)
      for (const edge of [left && `end ${left.id}`, right && `start ${right.id}`]) {
        const old = edge && ends.get(edge)
        if (old) edit.remove('transitions', old)
        if (edge) ends.set(edge, wanted.id)
      }
      const track = edit.need('tracks', (left ?? right)!.trackId)
      const room = transitionRoom(edit, left, right, wanted.missing)
      const grain = Math.round(grainOf(edit, track))
      if (room.before + room.after < grain)
        refuse(
          'handles',
          'There is no hidden footage on either side of this cut. Trim the clips a little, or let the edge ' +
            'frames be held.',
          [wanted.id],
        )
      // Asked for more on one side than there is: what is missing goes to the other side, if that has it.
      const total = wanted.before + wanted.after
      let before = Math.min(wanted.before, room.before)
      const after = Math.min(total - before, room.after)
      before = Math.min(total - after, room.before)
      if (total < grain) refuse('length', 'A transition has to be at least one frame long.', [wanted.id])
      edit.put('transitions', { ...wanted, trackId: track.id, before, after })
    }
  },
  describe: ({ transitions }) => `Put in ${count(transitions.length, 'transition')}`,
})

/** Changes kind, lengths, settings or what happens without hidden footage, alike for all of them. */
export const setTransitions = defineCommand({
  schema: z.object({
    type: z.literal('setTransitions'),
    transitionIds: z.array(idSchema).min(1).max(5000),
    set: transitionSchema.pick({ before: true, after: true, kind: true, settings: true, missing: true }).partial(),
  }),
  apply(edit, { transitionIds, set }) {
    for (const id of transitionIds) {
      const old = edit.need('transitions', id)
      const track = openTrack(edit, old.trackId)
      const next = { ...old, ...set }
      if (next.before + next.after < Math.round(grainOf(edit, track)))
        refuse('length', 'A transition has to be at least one frame long. Remove it instead.', [id])
      const [left, right] = sides(edit, next)
      const room = transitionRoom(edit, left, right, next.missing)
      if (room.before + room.after < Math.round(grainOf(edit, track)))
        refuse('handles', 'There is no hidden footage at this cut, so its edge frames have to be held.', [id])
      edit.put('transitions', next)
    }
  },
  describe: ({ transitionIds, set }) =>
    set.kind
      ? `Changed ${count(transitionIds.length, 'transition')} to another kind`
      : `Changed ${count(transitionIds.length, 'transition')}`,
})

export const removeTransitions = defineCommand({
  schema: z.object({ type: z.literal('removeTransitions'), transitionIds: z.array(idSchema).min(1).max(5000) }),
  apply(edit, { transitionIds }) {
    for (const id of transitionIds) {
      openTrack(edit, edit.need('transitions', id).trackId)
      edit.remove('transitions', id)
    }
  },
  describe: ({ transitionIds }) => `Removed ${count(transitionIds.length, 'transition')}`,
})
