import { z } from 'zod'
import type { Clip } from '../document/clip'
import { clipEnd } from '../document/query'
import type { Transition } from '../document/transition'
import { idSchema } from '../document/values'
import { copyEffects } from '../edit/carry'
import type { Edit } from '../edit/edit'
import { leadTrack, linkedClips, quantise } from '../edit/lanes'
import { count, defineCommand } from './define'
import { placeModeSchema, putClips } from './place'

/** Copies of clips with ids of their own; links, groups and markers among them are copied too, not shared. */
export function copyClips(edit: Edit, clips: readonly Clip[], by: number): Clip[] {
  const renewed = new Map<string, string>()
  const renew = (id: string | null) => {
    if (!id) return null
    if (!renewed.has(id)) renewed.set(id, edit.newId())
    return renewed.get(id)!
  }
  return clips.map((clip) => ({
    ...clip,
    id: renew(clip.id)!,
    link: renew(clip.link),
    group: renew(clip.group),
    start: quantise(edit, edit.need('tracks', clip.trackId), clip.start + by),
  }))
}

/** Copies of transitions whose clips were all copied; those that reach to a clip that was not stay with it alone. */
export function copyTransitions(
  edit: Edit,
  transitions: Iterable<Transition>,
  copyOf: ReadonlyMap<string, string>,
): void {
  for (const transition of transitions) {
    const side = (id: string | null) => (id === null ? null : copyOf.get(id))
    const [leftId, rightId] = [side(transition.leftId), side(transition.rightId)]
    if (leftId === undefined || rightId === undefined) continue
    const clip = edit.get('clips', (leftId ?? rightId)!)
    if (clip) edit.put('transitions', { ...transition, id: edit.newId(), trackId: clip.trackId, leftId, rightId })
  }
}

/** Puts copies of clips right behind them. */
export const duplicate = defineCommand({
  schema: z.object({
    type: z.literal('duplicate'),
    clipIds: z.array(idSchema).min(1).max(2000),
    mode: placeModeSchema.default('insert'),
    linked: z.boolean().default(true),
  }),
  apply(edit, { clipIds, mode, linked }) {
    const clips = linkedClips(edit, clipIds, linked)
    const lead = leadTrack(edit, clips)
    const first = Math.min(...clips.map((clip) => clip.start))
    const by = quantise(edit, lead, Math.max(...clips.map(clipEnd)) - first)
    const copies = copyClips(edit, clips, by)
    putClips(edit, copies, mode)
    const copyOf = new Map(clips.map((clip, i) => [clip.id, copies[i]!.id]))
    copyTransitions(edit, [...edit.all('transitions')], copyOf)
    for (const [from, to] of copyOf) copyEffects(edit, 'clip', from, to)
    for (const marker of [...edit.all('markers')]) {
      const clipId = marker.clipId && copyOf.get(marker.clipId)
      if (clipId) edit.put('markers', { ...marker, id: edit.newId(), clipId })
    }
  },
  describe: ({ clipIds }) => `Duplicated ${count(clipIds.length, 'clip')}`,
})
