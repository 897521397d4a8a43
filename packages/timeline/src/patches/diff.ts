import { sameData } from '../document/sameData'
import type { EntityKind } from '../document/project'
import type { FieldChange, Patch } from './patch'

/** An entity before and after; `null` where it did not exist. */
export interface EntityChange {
  kind: EntityKind
  id: string
  before: unknown
  after: unknown
}

/** The field of each kind that pushes and close-ups move. */
const SHIFTED: Partial<Record<EntityKind, 'start' | 'at'>> = { clips: 'start', markers: 'at' }

/**
 * The patches that lead from one state to another. Entities that differ only in where they lie, by the same amount,
 * become one patch together.
 */
export function patchesOf(changes: readonly EntityChange[], name?: { from: string; to: string }): Patch[] {
  const patches: Patch[] = []
  if (name && name.from !== name.to) patches.push({ op: 'name', ...name })
  const shifts = new Map<string, Extract<Patch, { op: 'shift' }>>()
  for (const { kind, id, before, after } of changes) {
    if (before === null || after === null) {
      if (before !== after) patches.push({ op: 'entity', kind, id, from: before, to: after } as Patch)
      continue
    }
    const fields: FieldChange[] = []
    differences([], before as Data, after as Data, fields)
    if (fields.length === 0) continue
    const shift = shiftOf(kind, fields)
    if (!shift) {
      patches.push({ op: 'fields', kind, id, fields })
      continue
    }
    const known = shifts.get(`${kind} ${shift.by}`)
    if (known) known.ids.push(id)
    else {
      const patch = { op: 'shift' as const, ...shift, ids: [id] }
      shifts.set(`${kind} ${shift.by}`, patch)
      patches.push(patch)
    }
  }
  return patches
}

type Data = Record<string, unknown>

function shiftOf(kind: EntityKind, fields: readonly FieldChange[]) {
  const [only] = fields
  const field = SHIFTED[kind]
  if (fields.length !== 1 || !only || only.path.length !== 1 || !field || only.path[0] !== field) return null
  return { kind: kind as 'clips' | 'markers', field, by: (only.to as number) - (only.from as number) }
}

const plain = (value: unknown): value is Data => typeof value === 'object' && value !== null && !Array.isArray(value)

/** Values that differ, each by the path to it. Lists count as one value. */
function differences(path: string[], before: Data, after: Data, found: FieldChange[]): void {
  for (const key in before) {
    const here = [...path, key]
    if (!(key in after) || after[key] === undefined) {
      if (before[key] !== undefined) found.push({ path: here, from: before[key] as never })
      continue
    }
    const [a, b] = [before[key], after[key]]
    if (a === b) continue
    // A setting that is there and one that is not are told apart by the key itself, not by what is inside.
    if (plain(a) && plain(b) && here.length < 6) differences(here, a, b, found)
    else if (!sameData(a, b)) found.push({ path: here, from: a as never, to: b as never })
  }
  for (const key in after)
    if ((!(key in before) || before[key] === undefined) && after[key] !== undefined)
      found.push({ path: [...path, key], to: after[key] as never })
}
