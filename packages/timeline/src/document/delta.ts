import { ENTITY_KINDS, type EntityKind, type Project } from './project'

/** What has to be told to somebody who holds one state of a document for them to hold the next. */
export type DocumentDelta =
  | { whole: Project }
  | {
      name: string
      /** Entities that are new or other than they were, by kind. */
      put: Partial<Record<EntityKind, readonly unknown[]>>
      /** Ids of those that are gone, by kind. */
      gone: Partial<Record<EntityKind, readonly string[]>>
    }

/**
 * What differs between two states of a document. Entities are compared by identity, since edits leave untouched ones
 * as they are: five thousand clips cost a pass over their ids, not over what is in them.
 * @param before `null` when the other side has nothing yet
 */
export function documentDelta(before: Project | null, after: Project): DocumentDelta {
  if (!before || before.id !== after.id) return { whole: after }
  const delta: DocumentDelta = { name: after.name, put: {}, gone: {} }
  for (const kind of ENTITY_KINDS) {
    const [was, is] = [before[kind] as Record<string, unknown>, after[kind] as Record<string, unknown>]
    if (was === is) continue
    const put: unknown[] = []
    const gone: string[] = []
    for (const id in is) if (was[id] !== is[id]) put.push(is[id])
    for (const id in was) if (!(id in is)) gone.push(id)
    if (put.length > 0) delta.put[kind] = put
    if (gone.length > 0) delta.gone[kind] = gone
  }
  return delta
}

/**
 * The state that a delta leads to. Maps without a difference keep their identity, so what was worked out from them
 * stays known.
 * @param before the state that the delta was made from; only a whole document may be taken without one
 * @throws {TypeError} when there is no state to apply a difference to
 */
export function applyDelta(before: Project | null, delta: DocumentDelta): Project {
  if ('whole' in delta) return delta.whole
  if (!before) throw new TypeError('A difference needs the document it was made from.')
  const after: Project = { ...before, name: delta.name }
  for (const kind of ENTITY_KINDS) {
    const [put, gone] = [delta.put[kind], delta.gone[kind]]
    if (!put && !gone) continue
    const map = { ...before[kind] } as Record<string, unknown>
    for (const entity of put ?? []) map[(entity as { id: string }).id] = entity
    for (const id of gone ?? []) delete map[id]
    Object.assign(after, { [kind]: map })
  }
  return after
}
