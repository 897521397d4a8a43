import {
  ENTITY_KINDS,
  invertPatches,
  migratedKind,
  migrateEntity,
  patchesOf,
  versionOf,
  type EntityChange,
  type EntityKind,
  type Patch,
} from '@dusk/timeline'

/** A change as versions 1 to 3 logged it: the whole entity as the edit left it (`from`) and as it was before (`to`). */
export interface LegacyChange {
  kind: string
  id: string
  from: unknown
  to: unknown
}

/** A log row of any version. */
export interface LogRow {
  seq: number
  version: number
  command: unknown
  patches: Patch[] | null
  undo: LegacyChange[] | null
  nameBefore: string | null
}

type State = Record<string, Record<string, unknown>>

/**
 * Brings log rows up to this version. The state of the document is walked back through them, entity by entity, in the
 * version it was in; both sides of each edit are then migrated and compared anew.
 * @param document the document as it is after the last of the rows, as it was stored
 * @param rows newest first
 * @returns the patches of each row in this version, by its number
 */
export function migrateLog(document: unknown, rows: readonly LogRow[]): Map<number, Patch[]> {
  const state: State = {}
  const stored = document as Record<string, unknown>
  for (const [kind, map] of Object.entries(stored))
    if (typeof map === 'object' && map !== null) state[kind] = { ...(map as Record<string, unknown>) }
  let name = String(stored.name)
  const found = new Map<number, Patch[]>()
  for (const row of rows) {
    const nameAfter = name
    const changes = row.undo ? legacyChanges(row.undo) : walkBack(state, row)
    name = row.nameBefore ?? nameIn(row)?.from ?? name
    for (const { kind, id, before } of changes) {
      const map = (state[kind] ??= {})
      if (before === null) delete map[id]
      else map[id] = before
    }
    const migrated = changes.flatMap(({ kind, id, before, after }): EntityChange[] => {
      const bring = (entity: unknown) =>
        entity === null ? null : migrateEntity(kind, entity, row.undo ? versionOf(kind, entity) : row.version)
      const now = migratedKind(kind, 1) as EntityKind
      return ENTITY_KINDS.includes(now) ? [{ kind: now, id, before: bring(before), after: bring(after) }] : []
    })
    found.set(row.seq, patchesOf(migrated, { from: name, to: nameAfter }))
  }
  return found
}

interface Raw {
  kind: string
  id: string
  before: unknown
  after: unknown
}

const legacyChanges = (undo: readonly LegacyChange[]): Raw[] =>
  undo.map(({ kind, id, from, to }) => ({ kind, id, before: to, after: from }))

/** What came of a logged edit. */
export function patchesIn(row: Pick<LogRow, 'patches' | 'command'>): readonly Patch[] {
  return row.patches ?? (row.command as { patches?: Patch[] }).patches ?? []
}

function nameIn(row: LogRow) {
  return patchesIn(row).find((patch) => patch.op === 'name')
}

/** The entities an edit changed, before and after it, from the state after it and its patches. */
function walkBack(state: State, row: LogRow): Raw[] {
  const changes: Raw[] = []
  for (const patch of invertPatches(patchesIn(row))) {
    if (patch.op === 'name') continue
    for (const id of patch.op === 'shift' ? patch.ids : [patch.id]) {
      const after = state[patch.kind]?.[id] ?? null
      let before: unknown = after
      if (patch.op === 'entity') before = patch.to
      else if (patch.op === 'shift') {
        const entity = after as Record<string, number>
        before = { ...entity, [patch.field]: entity[patch.field]! + patch.by }
      } else for (const field of patch.fields) before = withField(before, field.path, field.to)
      changes.push({ kind: patch.kind, id, before, after })
    }
  }
  return changes
}

/**
 * A stored document of any version with what came of later edits, in its own version. Edits are not carried out anew.
 * @param rows oldest first
 */
export function replay(document: unknown, rows: readonly LogRow[]): Record<string, unknown> {
  const next = { ...(document as Record<string, unknown>) }
  const maps: State = {}
  const mapOf = (kind: string) => (maps[kind] ??= { ...(next[kind] as Record<string, unknown> | undefined) })
  for (const row of rows) {
    const changes = row.undo
      ? legacyChanges(row.undo).map(({ kind, id, after }) => ({ kind, id, entity: after }))
      : walkBack(new Proxy(maps, { get: (_, kind) => mapOf(String(kind)) }), {
          ...row,
          patches: invertPatches(patchesIn(row)),
        }).map(({ kind, id, before }) => ({ kind, id, entity: before }))
    for (const { kind, id, entity } of changes) {
      if (entity === null) delete mapOf(kind)[id]
      else mapOf(kind)[id] = entity
    }
  }
  return { ...next, ...maps }
}

function withField(holder: unknown, [key, ...rest]: readonly string[], value: unknown): unknown {
  const next = { ...(holder as Record<string, unknown>) }
  const inner = rest.length > 0 ? withField(next[key!], rest, value) : value
  if (inner === undefined) delete next[key!]
  else next[key!] = inner
  return next
}
