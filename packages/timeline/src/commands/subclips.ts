import { z } from 'zod'
import { compareOrder, orderBetween } from '../document/order'
import { subclipSchema, type Subclip } from '../document/subclip'
import { idSchema } from '../document/values'
import type { Edit } from '../edit/edit'
import { refuse } from '../edit/refuse'
import { defineCommand } from './define'

function refuseBad(edit: Edit, subclip: Subclip): void {
  const asset = edit.need('assets', subclip.assetId)
  if (subclip.to <= subclip.from) refuse('length', 'A pick has to end after it begins.', [subclip.id])
  if (asset.kind !== 'still' && subclip.from >= asset.length)
    refuse('source', `${asset.name} ends before this pick begins.`, [subclip.id])
}

/** Keeps a marked part of a source under a name. */
export const addSubclip = defineCommand({
  schema: z.object({ type: z.literal('addSubclip'), subclip: subclipSchema.omit({ order: true }) }),
  apply(edit, { subclip }) {
    if (edit.get('subclips', subclip.id)) refuse('id', 'That pick is already there.', [subclip.id])
    const last = [...edit.all('subclips')]
      .filter((other) => other.assetId === subclip.assetId)
      .sort(compareOrder)
      .at(-1)
    const whole = { ...subclip, order: orderBetween(last?.order ?? null, null) }
    refuseBad(edit, whole)
    edit.put('subclips', whole)
  },
  describe: ({ subclip }) => `Kept ${subclip.name} as a pick`,
})

export const setSubclip = defineCommand({
  schema: z.object({
    type: z.literal('setSubclip'),
    subclipId: idSchema,
    set: subclipSchema.pick({ name: true, from: true, to: true }).partial(),
  }),
  apply(edit, { subclipId, set }) {
    const subclip = { ...edit.need('subclips', subclipId), ...set }
    refuseBad(edit, subclip)
    edit.put('subclips', subclip)
  },
  describe: () => 'Changed a pick',
})

export const removeSubclip = defineCommand({
  schema: z.object({ type: z.literal('removeSubclip'), subclipId: idSchema }),
  apply(edit, { subclipId }) {
    edit.need('subclips', subclipId)
    edit.remove('subclips', subclipId)
  },
  describe: () => 'Removed a pick',
})
