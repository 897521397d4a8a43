import { z } from 'zod'
import { ENTITY_KINDS, entitySchemas, type EntityKind } from '../document/project'
import { idSchema, MAX_TICKS, nameSchema } from '../document/values'

const kindSchema = z.enum(ENTITY_KINDS)

/** An entity that came or went: exactly one of the two sides is `null`. */
const entityPatch = <K extends EntityKind, S extends (typeof entitySchemas)[K]>(kind: K, schema: S) =>
  z.object({
    op: z.literal('entity'),
    kind: z.literal(kind),
    id: idSchema,
    from: schema.nullable(),
    to: schema.nullable(),
  })

/** One value inside an entity, before and after; a side that is left out was or will be absent. */
const fieldChangeSchema = z.object({
  path: z.array(z.string().min(1).max(60)).min(1).max(8),
  from: z.json().optional(),
  to: z.json().optional(),
})

/** Values of one entity that changed. */
const fieldsPatch = z.object({
  op: z.literal('fields'),
  kind: kindSchema,
  id: idSchema,
  fields: z.array(fieldChangeSchema).min(1).max(500),
})

/** A number added to one field of many entities: what a push of thousands of clips comes to. */
const shiftPatch = z.object({
  op: z.literal('shift'),
  kind: z.enum(['clips', 'markers']),
  field: z.enum(['start', 'at']),
  by: z.int().min(-MAX_TICKS).max(MAX_TICKS),
  ids: z.array(idSchema).min(1).max(100_000),
})

/** The project's own name. */
const namePatch = z.object({ op: z.literal('name'), from: nameSchema, to: nameSchema })

/**
 * One difference between two states of a document. Patches of a change are about different values, so their order does
 * not matter, and each can be turned around.
 */
export const patchSchema = z.union([
  namePatch,
  shiftPatch,
  fieldsPatch,
  z.discriminatedUnion('kind', [
    entityPatch('assets', entitySchemas.assets),
    entityPatch('reels', entitySchemas.reels),
    entityPatch('tracks', entitySchemas.tracks),
    entityPatch('clips', entitySchemas.clips),
    entityPatch('transitions', entitySchemas.transitions),
    entityPatch('markers', entitySchemas.markers),
    entityPatch('subclips', entitySchemas.subclips),
    entityPatch('folders', entitySchemas.folders),
    entityPatch('effects', entitySchemas.effects),
  ]),
])

export type Patch = z.infer<typeof patchSchema>
export type FieldChange = z.infer<typeof fieldChangeSchema>

/** The patches that take others back. */
export function invertPatches(patches: readonly Patch[]): Patch[] {
  return patches.map((patch): Patch => {
    switch (patch.op) {
      case 'shift':
        return { ...patch, by: -patch.by }
      case 'fields':
        return { ...patch, fields: patch.fields.map(turned) }
      default:
        return { ...patch, from: patch.to, to: patch.from } as Patch
    }
  })
}

function turned({ path, ...sides }: FieldChange): FieldChange {
  const change: FieldChange = { path }
  if ('to' in sides) change.from = sides.to
  if ('from' in sides) change.to = sides.from
  return change
}
