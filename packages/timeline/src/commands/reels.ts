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
