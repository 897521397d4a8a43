import { z } from 'zod'
import type { MediaClip } from '../document/clip'
import { clipEnd } from '../document/query'
import { SOUND_FADES } from '../document/transition'
import { idSchema, ticksSchema } from '../document/values'
import { copyEffects } from '../edit/carry'
import { openTrack, quantise } from '../edit/lanes'
import { refuse } from '../edit/refuse'
import { defineCommand } from './define'

/**
 * Plays other stretches of a sound in its clips' place, one right after the other, each passing into the next: as when
 * music is brought to a length. Settings, level line and effects are those of the first clip; the stretches are
 * selected and moved as one.
 */
export const recut = defineCommand({
  schema: z.object({
    type: z.literal('recut'),
    /** Clips that give way: of one source, on one track. */
    clipIds: z.array(idSchema).min(1).max(500),
    /** Stretches of the source in ticks. */
    parts: z
      .array(z.object({ source: ticksSchema, length: ticksSchema.min(1) }))
      .min(1)
      .max(500),
    /** How long one passes into the next, in ticks; half of it on either side. */
    crossfade: ticksSchema.default(0),
    fade: z.enum(SOUND_FADES).default('equalPower'),
    /** How long the last of them is faded out, in ticks. */
    fadeOut: ticksSchema.default(0),
  }),
  apply(edit, { clipIds, parts, crossfade, fade, fadeOut }) {
    const clips = clipIds.map((id) => edit.need('clips', id)).sort((a, b) => a.start - b.start)
    const [first] = clips as [MediaClip]
    const track = openTrack(edit, first.trackId)
    const alike = clips.every(
      (clip) =>
        clip.kind === 'media' &&
        clip.trackId === track.id &&
        clip.assetId === first.assetId &&
        clip.stream !== null &&
        clip.stream === first.stream &&
        clip.map.kind === 'constant' &&
        clip.map.speed === 1,
    )
    if (!alike) refuse('kind', 'Only the sound of one source, at its own speed, can be put together anew.', clipIds)
    const last = clips.at(-1)!
    const ending = [...edit.all('transitions')].find((entry) => entry.leftId === last.id && entry.rightId === null)
    const group = parts.length > 1 ? edit.newId() : null
    let at = first.start
    const ids: string[] = []
    for (const [i, part] of parts.entries()) {
      const end = quantise(edit, track, at + part.length)
      if (end <= at) refuse('length', 'A stretch has to be at least one sample long.', [first.id])
      const head = first.head + at - first.start
      const id = i === 0 ? first.id : edit.newId()
      if (i > 0) copyEffects(edit, 'clip', first.id, id)
      edit.put('clips', {
        ...first,
        ...{ id, start: at, length: end - at, head, group },
        // Clip time goes on from stretch to stretch, so that a level line lies over all of them.
        map: { kind: 'constant', source: part.source - head, speed: 1 },
        ...(i > 0 ? { link: null, sync: 0 } : {}),
      })
      ids.push(id)
      at = end
    }
    for (const clip of clips.slice(1)) edit.remove('clips', clip.id)
    const were = new Set(clipIds)
    for (const entry of [...edit.all('transitions')])
      if ((entry.leftId && were.has(entry.leftId)) || (entry.rightId && were.has(entry.rightId)))
        if (entry.rightId !== first.id) edit.remove('transitions', entry.id)
    const join = { trackId: track.id, kind: fade, settings: {}, missing: 'shorten' as const }
    const half = quantise(edit, track, Math.floor(crossfade / 2))
    if (half > 0)
      for (let i = 1; i < ids.length; i++)
        edit.put('transitions', {
          ...{ ...join, id: edit.newId(), leftId: ids[i - 1]!, rightId: ids[i]! },
          ...{ before: half, after: half },
        })
    // What is not faded out ends as it did before.
    const tail = edit.need('clips', ids.at(-1)!)
    const end = fadeOut > 0 ? { ...join, id: edit.newId(), after: 0, rightId: null, before: fadeOut } : ending
    if (end)
      edit.put('transitions', {
        ...end,
        leftId: tail.id,
        before: quantise(edit, track, Math.min(end.before, tail.length)),
      })
    const next = edit.clipsOn(track.id).find((clip) => clip.start > first.start && !ids.includes(clip.id))
    if (next && next.start < clipEnd(tail))
      refuse('overlap', `What comes next on ${track.name} is in the way. Move it later, or make this shorter.`, [
        next.id,
      ])
  },
  describe: () => 'Put a sound together anew',
})
