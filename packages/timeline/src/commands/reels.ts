import { z } from 'zod'
import { createReel, createTracks } from '../document/create'
import { compareOrder, orderBetween } from '../document/order'
import { formatSchema } from '../document/reel'
import { idSchema, nameSchema } from '../document/values'
import { refuse } from '../edit/refuse'
import { defineCommand } from './define'

/** Adds an empty reel with the usual tracks. */
export const addReel = defineCommand({
  schema: z.object({ type: z.literal('addReel'), reelId: idSchema, name: nameSchema, format: formatSchema }),
  apply(edit, { reelId, name, format }) {
    if (edit.get('reels', reelId)) refuse('id', 'That reel is already there.', [reelId])
    const reels = [...edit.all('reels')].sort(compareOrder)
    if (reels.length >= 200) refuse('limit', 'A project holds at most 200 reels.')
    edit.put(
      'reels',
      createReel(name, format, orderBetween(reels.at(-1)?.order ?? null, null), () => reelId),
    )
    for (const track of createTracks(reelId, () => edit.newId())) edit.put('tracks', track)
  },
  describe: ({ name }) => `Made the reel ${name}`,
})

/** A second reel with all that is in a first; nothing of it is shared but the sources, and the reels it plays. */
export const duplicateReel = defineCommand({
  schema: z.object({ type: z.literal('duplicateReel'), reelId: idSchema, newReelId: idSchema, name: nameSchema }),
  apply(edit, { reelId, newReelId, name }) {
    const reel = edit.need('reels', reelId)
    if (edit.get('reels', newReelId)) refuse('id', 'That reel is already there.', [newReelId])
    const reels = [...edit.all('reels')].sort(compareOrder)
    if (reels.length >= 200) refuse('limit', 'A project holds at most 200 reels.')
    const next = reels[reels.findIndex(({ id }) => id === reelId) + 1]
    const renewed = new Map([[reelId, newReelId]])
    const renew = (id: string) => {
      if (!renewed.has(id)) renewed.set(id, edit.newId())
      return renewed.get(id)!
    }
    const tied = (id: string | null) => id && renew(id)
    edit.put('reels', { ...reel, id: newReelId, name, order: orderBetween(reel.order, next?.order ?? null) })
    const tracks = [...edit.all('tracks')].filter((track) => track.reelId === reelId)
    const inside = new Set([reelId, ...tracks.map(({ id }) => id)])
    for (const track of tracks) edit.put('tracks', { ...track, id: renew(track.id), reelId: newReelId })
    for (const clip of [...edit.all('clips')]) {
      if (!inside.has(clip.trackId)) continue
      inside.add(clip.id)
      edit.put('clips', {
        ...clip,
        ...{ id: renew(clip.id), trackId: renew(clip.trackId), link: tied(clip.link), group: tied(clip.group) },
      })
    }
    for (const entry of [...edit.all('transitions')])
      if (inside.has(entry.trackId))
        edit.put('transitions', {
          ...entry,
          ...{ id: edit.newId(), trackId: renew(entry.trackId) },
          ...{ leftId: tied(entry.leftId), rightId: tied(entry.rightId) },
        })
    for (const marker of [...edit.all('markers')])
      if (inside.has(marker.reelId ?? marker.clipId!))
        edit.put('markers', {
          ...marker,
          ...{ id: edit.newId(), reelId: tied(marker.reelId), clipId: tied(marker.clipId) },
        })
    for (const effect of [...edit.all('effects')])
      if (inside.has(effect.ownerId))
        edit.put('effects', { ...effect, id: edit.newId(), ownerId: renew(effect.ownerId) })
  },
  describe: ({ name }) => `Made the reel ${name} as a copy`,
})

/** Removes a reel with all that is in it. */
export const removeReel = defineCommand({
  schema: z.object({ type: z.literal('removeReel'), reelId: idSchema }),
  apply(edit, { reelId }) {
    const reel = edit.need('reels', reelId)
    if ([...edit.all('reels')].length === 1) refuse('last', 'A project keeps at least one reel.', [reelId])
    const tracks = new Set([...edit.all('tracks')].filter((track) => track.reelId === reelId).map((track) => track.id))
    for (const clip of [...edit.all('clips')]) {
      if (tracks.has(clip.trackId)) edit.remove('clips', clip.id)
      else if (clip.kind === 'reel' && clip.nestedId === reelId) {
        const parent = edit.get('reels', edit.need('tracks', clip.trackId).reelId)
        refuse('used', `${reel.name} plays inside ${parent?.name ?? 'another reel'}. Take it out there first.`, [
          clip.id,
        ])
      }
    }
    for (const id of tracks) edit.remove('tracks', id)
    edit.remove('reels', reelId)
  },
  describe: () => 'Removed a reel',
})
