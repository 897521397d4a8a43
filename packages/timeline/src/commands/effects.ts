import { z } from 'zod'
import { effectOwnerSchema, effectSchema, type Effect, type EffectOwner } from '../document/effect'
import { compareOrder, orderBetween } from '../document/order'
import { maskSchema } from '../document/mask'
import { idSchema } from '../document/values'
import type { Edit } from '../edit/edit'
import { openTrack } from '../edit/lanes'
import { refuse } from '../edit/refuse'
import { looseParamsSchema } from '../params/spec'
import { count, defineCommand } from './define'
import { checkParams, paramPatchSchema, patchParams } from './params'

/** Refuses where the clip's or the track's own track is locked, or has nothing of the kind. */
function openOwner(edit: Edit, owner: EffectOwner, ownerId: string, domain: Effect['domain']): void {
  if (owner === 'reel') return void edit.need('reels', ownerId)
  if (owner === 'asset') {
    const { kind, name } = edit.need('assets', ownerId)
    if (domain === 'sound') refuse('kind', 'Sound effects go on clips, tracks and reels.', [ownerId])
    if (kind === 'sound') refuse('kind', `${name} has no picture.`, [ownerId])
    return
  }
  const trackId = owner === 'clip' ? edit.need('clips', ownerId).trackId : ownerId
  const track = openTrack(edit, trackId)
  if ((track.kind === 'sound') !== (domain === 'sound'))
    refuse('kind', domain === 'sound' ? 'Sound effects go on sounds.' : 'Picture effects go on pictures.', [ownerId])
}

const stackOf = (edit: Edit, ownerId: string, domain: Effect['domain']): Effect[] =>
  [...edit.all('effects')].filter((effect) => effect.ownerId === ownerId && effect.domain === domain).sort(compareOrder)

/** Adds effects at the end of the stacks of clips, tracks, sources or a reel. */
export const addEffects = defineCommand({
  schema: z.object({
    type: z.literal('addEffects'),
    owner: effectOwnerSchema,
    ownerIds: z.array(idSchema).min(1).max(5000),
    effects: z
      .array(effectSchema.pick({ domain: true, kind: true, settings: true, strength: true, mask: true }))
      .min(1)
      .max(40),
    /** Whether they take the place of what is there. */
    replace: z.boolean().default(false),
  }),
  apply(edit, { owner, ownerIds, effects, replace }) {
    for (const ownerId of ownerIds)
      for (const [i, effect] of effects.entries()) {
        openOwner(edit, owner, ownerId, effect.domain)
        const stack = stackOf(edit, ownerId, effect.domain)
        if (replace && i === 0) for (const old of stack.splice(0)) edit.remove('effects', old.id)
        const order = orderBetween(stack.at(-1)?.order ?? null, null)
        edit.put('effects', { ...effect, id: edit.newId(), owner, ownerId, order, on: true })
      }
  },
  describe: ({ effects }) => `Added ${count(effects.length, 'effect')}`,
})

/** Changes effects: on or off, strength, settings. */
export const setEffects = defineCommand({
  schema: z.object({
    type: z.literal('setEffects'),
    effectIds: z.array(idSchema).min(1).max(5000),
    set: effectSchema
      .pick({ on: true, strength: true })
      .partial()
      // `null` takes the mask away.
      .extend({ settings: paramPatchSchema.optional(), mask: maskSchema.nullable().optional() }),
  }),
  apply(edit, { effectIds, set }) {
    for (const id of effectIds) {
      const effect = edit.need('effects', id)
      openOwner(edit, effect.owner, effect.ownerId, effect.domain)
      const { settings, mask, ...rest } = set
      const next: Effect = { ...effect, ...rest }
      if (settings) next.settings = checkParams(looseParamsSchema, patchParams(effect.settings, settings), [id])
      if (mask && effect.domain === 'sound') refuse('kind', 'A sound effect has no mask.', [id])
      if (mask) next.mask = mask
      else if (mask === null) delete next.mask
      edit.put('effects', next)
    }
  },
  describe: ({ set }) =>
    set.on === undefined ? 'Changed an effect' : set.on ? 'Switched an effect on' : 'Switched an effect off',
})

/** Puts an effect elsewhere in its stack: right behind another, or with `null` first. */
export const moveEffect = defineCommand({
  schema: z.object({ type: z.literal('moveEffect'), effectId: idSchema, after: idSchema.nullable() }),
  apply(edit, { effectId, after }) {
    const effect = edit.need('effects', effectId)
    openOwner(edit, effect.owner, effect.ownerId, effect.domain)
    const rest = stackOf(edit, effect.ownerId, effect.domain).filter(({ id }) => id !== effectId)
    const place = after === null ? 0 : rest.findIndex(({ id }) => id === after) + 1
    if (after !== null && place === 0) refuse('missing', 'That effect is not in this stack.', [after])
    const order = orderBetween(rest[place - 1]?.order ?? null, rest[place]?.order ?? null)
    edit.put('effects', { ...effect, order })
  },
  describe: () => 'Moved an effect',
})

export const removeEffects = defineCommand({
  schema: z.object({ type: z.literal('removeEffects'), effectIds: z.array(idSchema).min(1).max(5000) }),
  apply(edit, { effectIds }) {
    for (const id of effectIds) {
      const effect = edit.need('effects', id)
      openOwner(edit, effect.owner, effect.ownerId, effect.domain)
      edit.remove('effects', id)
    }
  },
  describe: ({ effectIds }) => `Removed ${count(effectIds.length, 'effect')}`,
})
