import { sameData } from '../document/sameData'
import type { EntityKind } from '../document/project'
import type { FieldChange, Patch } from './patch'

/** An entity before and after; `null` where it did not exist. */
export interface EntityChange {
  kind: EntityKind
  id: string
  before: unknown
  after: unknown
  /** Known to be moved in time and nothing else. */
  moved?: boolean
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
  const shifts = new Map<EntityKind, Map<number, string[]>>()
  const shift = (kind: 'clips' | 'markers', field: 'start' | 'at', by: number, id: string) => {
    let ofKind = shifts.get(kind)
    if (!ofKind) shifts.set(kind, (ofKind = new Map()))
    const ids = ofKind.get(by)
    if (ids) ids.push(id)
    else {
      const made = [id]
      ofKind.set(by, made)
      patches.push({ op: 'shift', kind, field, by, ids: made })
    }
  }
  for (const { kind, id, before, after, moved } of changes) {
    if (before === null || after === null) {
      if (before !== after) patches.push({ op: 'entity', kind, id, from: before, to: after } as Patch)
      continue
    }
    const field = SHIFTED[kind]
    if (field && (moved || onlyDiffers(field, before as Data, after as Data))) {
      const by = ((after as Data)[field] as number) - ((before as Data)[field] as number)
      if (by !== 0) shift(kind as 'clips' | 'markers', field, by, id)
      continue
    }
    const fields: FieldChange[] = []
    differences([], before as Data, after as Data, fields)
    if (fields.length > 0) patches.push({ op: 'fields', kind, id, fields })
  }
  return patches
}

type Data = Record<string, unknown>

/** Whether all but one field are the very same values: all a push does to thousands of clips. */
function onlyDiffers(field: string, before: Data, after: Data): boolean {
  for (const key in before) if (before[key] !== after[key] && key !== field) return false
  for (const key in after) if (!(key in before)) return false
  return true
}

const plain = (value: unknown): value is Data => typeof value === 'object' && value !== null && !Array.isArray(value)

/** Values that differ, each by the path to it. Lists count as one value. */
function differences(path: string[], before: Data, after: Data, found: FieldChange[]): void {
  for (const key in before) {
    const a = before[key]
    const b = after[key]
    if (a === b) continue
    const here = [...path, key]
    if (b === undefined) {
      found.push({ path: here, from: a as never })
      continue
    }
    if (a === undefined) continue
    // A setting that is there and one that is not are told apart by the key itself, not by what is inside.
    if (plain(a) && plain(b) && here.length < 6) differences(here, a, b, found)
    else if (!sameData(a, b)) found.push({ path: here, from: a as never, to: b as never })
  }
  for (const key in after)
    if (before[key] === undefined && after[key] !== undefined)
      found.push({ path: [...path, key], to: after[key] as never })
}
