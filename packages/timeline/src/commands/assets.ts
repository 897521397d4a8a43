import { z } from 'zod'
import { assetFactsSchema } from '../document/asset'
import { idSchema, nameSchema } from '../document/values'
import { refuse } from '../edit/refuse'
import type { Edit } from '../edit/edit'
import { count, defineCommand } from './define'
import { withoutTake } from './takes'

/**
 * Puts a source into the library; a source already there is described anew (its length is known better after
 * ingest), and keeps what the person said of it: its name, too, which may have been changed meanwhile.
 */
export const addAsset = defineCommand({
  schema: z.object({
    type: z.literal('addAsset'),
    asset: assetFactsSchema,
    /** Only says anew what is known of it: one that was taken out meanwhile stays out. */
    again: z.boolean().optional(),
  }),
  apply(edit, { asset, again }) {
    const old = edit.get('assets', asset.id)
    if (again && !old) return
    if (old && old.kind !== asset.kind)
      refuse('kind', `${old.name} is already here as another kind of source.`, [old.id])
    const { name = asset.name, folderId = null, label = null, note = '' } = old ?? {}
    edit.put('assets', { ...asset, name, folderId, label, note })
  },
  describe: ({ asset }) => `Added ${asset.name}`,
})

export const renameAsset = defineCommand({
  schema: z.object({ type: z.literal('renameAsset'), assetId: idSchema, name: nameSchema }),
  apply(edit, { assetId, name }) {
    edit.put('assets', { ...edit.need('assets', assetId), name })
  },
  describe: ({ name }) => `Renamed a source to ${name}`,
})

/** Takes a source out of the library together with every clip of it; where it was another take, that goes. */
function takeOut(edit: Edit, assetId: string): void {
  const { name } = edit.need('assets', assetId)
  for (const clip of [...edit.all('clips')]) {
    if (clip.kind !== 'media') continue
    if (clip.assetId !== assetId) {
      if (clip.takes?.some((take) => take.assetId === assetId)) edit.put('clips', withoutTake(clip, assetId))
      continue
    }
    const track = edit.need('tracks', clip.trackId)
    if (track.locked) refuse('locked', `A clip of ${name} lies on ${track.name}, which is locked.`, [track.id])
    edit.remove('clips', clip.id)
  }
  edit.remove('assets', assetId)
}

export const removeAsset = defineCommand({
  schema: z.object({ type: z.literal('removeAsset'), assetId: idSchema }),
  apply: (edit, { assetId }) => takeOut(edit, assetId),
  describe: () => 'Removed a source',
})

/** Several sources at once, as one step. */
export const removeAssets = defineCommand({
  schema: z.object({ type: z.literal('removeAssets'), assetIds: z.array(idSchema).min(1).max(2000) }),
  apply(edit, { assetIds }) {
    for (const assetId of new Set(assetIds)) takeOut(edit, assetId)
  },
  describe: ({ assetIds }) => `Removed ${count(assetIds.length, 'source')}`,
})
