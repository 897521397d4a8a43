import { sameData } from '../document/sameData'
import { entitySchemas, type Entity, type EntityKind } from '../document/project'
import type { Edit } from '../edit/edit'
import { refuse } from '../edit/refuse'
import type { FieldChange, Patch } from './patch'

const CHANGED = 'This was changed since in a way that no longer goes together with taking it back.'

/**
 * Carries patches out on a document in the making. Each is checked against what is there now.
 * @throws {CommandRefused} when something is no longer as a patch says it was
 */
export function applyPatches(edit: Edit, patches: readonly Patch[]): void {
  for (const patch of patches) {
    switch (patch.op) {
      case 'name':
        if (edit.name !== patch.from) refuse('changed', 'The project was renamed in another window since.')
        edit.name = patch.to
        break
      case 'entity': {
        const { kind, id, from, to } = patch
        if (!sameData(edit.get(kind, id) ?? null, from)) refuse('changed', CHANGED, [id])
        if (to && to.id !== id) refuse('id', 'What is to be put back has another id.', [id])
        if (to) edit.put<EntityKind>(kind, to as Entity<EntityKind>)
        else edit.remove(kind, id)
        break
      }
      case 'fields': {
        const { kind, id, fields } = patch
        let entity: unknown = edit.get(kind, id)
        if (!entity) refuse('changed', CHANGED, [id])
        for (const field of fields) entity = withField(entity, field, 0, id)
        const held = entitySchemas[kind].safeParse(entity)
        if (!held.success || (entity as { id: string }).id !== id)
          refuse('shape', 'What is to be put back is not in the shape of its kind.', [id])
        edit.put<EntityKind>(kind, entity as Entity<EntityKind>)
        break
      }
      case 'shift': {
        const { kind, field, by, ids } = patch
        for (const id of ids) {
          const entity = edit.get(kind, id) as Record<string, unknown> | undefined
          if (!entity || typeof entity[field] !== 'number') return refuse('changed', CHANGED, [id])
          edit.put(kind as EntityKind, { ...entity, [field]: entity[field] + by } as unknown as Entity<EntityKind>)
        }
      }
    }
  }
}

function withField(holder: unknown, change: FieldChange, depth: number, id: string): unknown {
  if (typeof holder !== 'object' || holder === null || Array.isArray(holder)) return refuse('changed', CHANGED, [id])
  const key = change.path[depth]!
  if (key === '__proto__') return refuse('shape', 'What is to be put back is not in the shape of its kind.', [id])
  const inner = (holder as Record<string, unknown>)[key]
  if (depth < change.path.length - 1) return { ...holder, [key]: withField(inner, change, depth + 1, id) }
  if (!sameData(inner, change.from)) refuse('changed', CHANGED, [id])
  const next: Record<string, unknown> = { ...holder }
  if ('to' in change && change.to !== undefined) next[key] = change.to
  else delete next[key]
  return next
}
