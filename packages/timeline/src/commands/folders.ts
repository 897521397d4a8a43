import { z } from 'zod'
import { assetSchema } from '../document/asset'
import { compareOrder, orderBetween } from '../document/order'
import { idSchema, nameSchema } from '../document/values'
import type { Edit } from '../edit/edit'
import { refuse } from '../edit/refuse'
import { count, defineCommand } from './define'

function lastOrder(edit: Edit, parentId: string | null): string | null {
  const siblings = [...edit.all('folders')].filter((folder) => folder.parentId === parentId).sort(compareOrder)
  return siblings.at(-1)?.order ?? null
}

/** Makes a folder in the library. */
export const addFolder = defineCommand({
  schema: z.object({
    type: z.literal('addFolder'),
    folderId: idSchema,
    name: nameSchema,
    parentId: idSchema.nullable().default(null),
  }),
  apply(edit, { folderId, name, parentId }) {
    if (edit.get('folders', folderId)) refuse('id', 'That folder is already there.', [folderId])
    if (parentId) edit.need('folders', parentId)
    edit.put('folders', { id: folderId, name, parentId, order: orderBetween(lastOrder(edit, parentId), null) })
  },
  describe: ({ name }) => `Made the folder ${name}`,
})

/** Renames a folder or puts it into another. */
export const setFolder = defineCommand({
  schema: z.object({
    type: z.literal('setFolder'),
    folderId: idSchema,
    set: z.object({ name: nameSchema, parentId: idSchema.nullable() }).partial(),
  }),
  apply(edit, { folderId, set }) {
    const folder = edit.need('folders', folderId)
    for (let id = set.parentId ?? null; id; id = edit.need('folders', id).parentId)
      if (id === folderId) refuse('cycle', 'A folder can’t lie inside itself.', [folderId])
    const order = set.parentId === undefined ? folder.order : orderBetween(lastOrder(edit, set.parentId), null)
    edit.put('folders', { ...folder, ...set, order })
  },
  describe: ({ set }) => (set.name ? `Renamed a folder to ${set.name}` : 'Moved a folder'),
})

/** Removes a folder; what was in it goes where the folder was. */
export const removeFolder = defineCommand({
  schema: z.object({ type: z.literal('removeFolder'), folderId: idSchema }),
  apply(edit, { folderId }) {
    const { parentId } = edit.need('folders', folderId)
    for (const asset of [...edit.all('assets')])
      if (asset.folderId === folderId) edit.put('assets', { ...asset, folderId: parentId })
    for (const folder of [...edit.all('folders')])
      if (folder.parentId === folderId) edit.put('folders', { ...folder, parentId })
    edit.remove('folders', folderId)
  },
  describe: () => 'Removed a folder',
})

/** Files, labels or annotates sources. */
export const setAssets = defineCommand({
  schema: z.object({
    type: z.literal('setAssets'),
    assetIds: z.array(idSchema).min(1).max(5000),
    set: assetSchema.pick({ folderId: true, label: true, note: true }).partial(),
  }),
  apply(edit, { assetIds, set }) {
    if (set.folderId) edit.need('folders', set.folderId)
    for (const id of assetIds) edit.put('assets', { ...edit.need('assets', id), ...set })
  },
  describe: ({ assetIds, set }) =>
    `${set.folderId !== undefined ? 'Filed' : set.label !== undefined ? 'Labelled' : 'Noted'} ` +
    `${count(assetIds.length, 'source')}`,
})
