import { z } from 'zod'
import { compareOrder, orderBetween } from '../document/order'
import { pickSchema, type Pick } from '../document/pick'
import { idSchema } from '../document/values'
import type { Edit } from '../edit/edit'
import { refuse } from '../edit/refuse'
import { defineCommand } from './define'

function refuseBad(edit: Edit, pick: Pick): void {
  const asset = edit.need('assets', pick.assetId)
  if (pick.to <= pick.from) refuse('length', 'A pick has to end after it begins.', [pick.id])
  if (asset.kind !== 'still' && pick.from >= asset.length)
    refuse('source', `${asset.name} ends before this pick begins.`, [pick.id])
}

/** Keeps a marked part of a source under a name. */
export const addPick = defineCommand({
  schema: z.object({ type: z.literal('addPick'), pick: pickSchema.omit({ order: true }) }),
  apply(edit, { pick }) {
    if (edit.get('picks', pick.id)) refuse('id', 'That pick is already there.', [pick.id])
    const last = [...edit.all('picks')]
      .filter((other) => other.assetId === pick.assetId)
      .sort(compareOrder)
      .at(-1)
    const whole = { ...pick, order: orderBetween(last?.order ?? null, null) }
    refuseBad(edit, whole)
    edit.put('picks', whole)
  },
  describe: ({ pick }) => `Kept ${pick.name} as a pick`,
})

export const setPick = defineCommand({
  schema: z.object({
    type: z.literal('setPick'),
    pickId: idSchema,
    set: pickSchema.pick({ name: true, from: true, to: true }).partial(),
  }),
  apply(edit, { pickId, set }) {
    const pick = { ...edit.need('picks', pickId), ...set }
    refuseBad(edit, pick)
    edit.put('picks', pick)
  },
  describe: () => 'Changed a pick',
})

export const removePick = defineCommand({
  schema: z.object({ type: z.literal('removePick'), pickId: idSchema }),
  apply(edit, { pickId }) {
    edit.need('picks', pickId)
    edit.remove('picks', pickId)
  },
  describe: () => 'Removed a pick',
})
