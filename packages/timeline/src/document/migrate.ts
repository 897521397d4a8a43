import { ENTITY_KINDS, entitySchemas, projectSchema, SCHEMA_VERSION, type EntityKind, type Project } from './project'
import { settleStray } from './salvage'

/** A document that can't be opened, with what is wrong and where. */
export class DocumentError extends Error {
  constructor(
    message: string,
    readonly path: string,
  ) {
    super(message)
    this.name = 'DocumentError'
  }
}

type Data = Record<string, unknown>

/**
 * What one version changed in entities, each by itself: so documents and what their logs hold are brought up alike.
 * `empty` names maps that came new.
 */
interface Step {
  entities: Record<string, (old: Data) => Data>
  /** Maps that got another name. */
  renamed?: Record<string, string>
  empty?: readonly string[]
}

/** Version 2 has markers, picks, folders, groups, notes and what keeps linked clips in sync. */
const toVersion2: Step = {
  entities: {
    assets: (asset) => ({ folderId: null, label: null, note: '', ...asset }),
    clips: (clip) => ({ sync: 0, group: null, note: '', ...clip }),
  },
  empty: ['markers', 'picks', 'folders'],
}

/** Version 3 has transitions and one bag of settings, with keyframes, where place and opacity were. */
const toVersion3: Step = {
  entities: {
    reels: (reel) => ({ filling: 'none', ...reel }),
    tracks: (track) => ({ params: {}, ...track }),
    clips: ({ opacity, place, ...clip }) => {
      const { x = 0, y = 0, scale = 1, turn = 0 } = (place ?? {}) as Record<string, number>
      const params: Data = { ...(clip.params as Data | undefined) }
      if (x !== 0 || y !== 0) params.position = [x, y]
      if (scale !== 1) params.size = scale * 100
      if (turn !== 0) params.turn = turn
      if (opacity !== undefined && opacity !== 1) params.opacity = typeof opacity === 'number' ? opacity * 100 : opacity
      return { ...clip, params }
    },
  },
  empty: ['transitions'],
}

/** Settings of version 3 whose names became those of the field. */
const RENAMED_PARAMS: Record<string, string> = {
  turn: 'rotation',
  flipAcross: 'flipHorizontal',
  flipDown: 'flipVertical',
  corners: 'cornerRadius',
  shadowAway: 'shadowDistance',
  shadowTurn: 'shadowAngle',
  filling: 'backgroundFill',
  fillingColour: 'backgroundFillColour',
  shutter: 'shutterAngle',
}
const RENAMED_STYLE: Record<string, string> = {
  shadowAway: 'shadowDistance',
  shadowTurn: 'shadowAngle',
  gradientTurn: 'gradientAngle',
  boxCorners: 'boxCornerRadius',
}
const RENAMED_FADES: Record<string, string> = { even: 'equalPower', straight: 'linear' }

function renamed(bag: unknown, names: Record<string, string>): Data {
  return Object.fromEntries(Object.entries((bag ?? {}) as Data).map(([key, value]) => [names[key] ?? key, value]))
}

/** Version 4 calls things what the field calls them. */
const toVersion4: Step = {
  entities: {
    reels: ({ filling, ...reel }) => ({ ...(filling === undefined ? {} : { backgroundFill: filling }), ...reel }),
    tracks: (track) => ({ ...track, params: renamed(track.params, RENAMED_PARAMS) }),
    clips: (clip) => {
      const map = clip.map as { kind: string } | undefined
      const next: Data = { ...clip, params: renamed(clip.params, RENAMED_PARAMS) }
      if (map?.kind === 'steady') next.map = { ...map, kind: 'constant' }
      if (clip.kind === 'generator') next.settings = renamed(clip.settings, { corners: 'cornerRadius' })
      if (clip.kind !== 'title') return next
      const title = clip.title as Data
      const runs = (title.runs ?? []) as Data[]
      const plainMove = (move: unknown) => {
        if (!move) return null
        const { settings: _, ...rest } = move as Data
        return rest
      }
      next.title = {
        ...title,
        style: renamed(title.style, RENAMED_STYLE),
        runs: runs.map((run) => ({ ...run, style: renamed(run.style, RENAMED_STYLE) })),
        in: plainMove(title.in),
        out: plainMove(title.out),
        during: plainMove(title.during),
      }
      return next
    },
    transitions: (transition) => ({
      ...transition,
      kind: RENAMED_FADES[transition.kind as string] ?? transition.kind,
    }),
  },
  renamed: { picks: 'subclips' },
}

/** Version 5 has speeds, effects, and a level for the whole reel. */
const toVersion5: Step = {
  entities: {
    reels: (reel) => ({ gain: 0, params: {}, ...reel }),
    clips: (clip) => {
      const map = clip.map as Data | undefined
      return map?.kind === 'constant' ? { ...clip, map: { speed: 1, ...map } } : clip
    },
  },
  empty: ['effects'],
}

/** `STEPS[n]` leads from version n to n + 1. */
const STEPS: Record<number, Step> = { 1: toVersion2, 2: toVersion3, 3: toVersion4, 4: toVersion5 }

/** The name that an entity map of an older version has now. */
export function migratedKind(kind: string, version: number): string {
  let name = kind
  for (let n = version; n < SCHEMA_VERSION; n++) name = STEPS[n]?.renamed?.[name] ?? name
  return name
}

/** An entity of a document of version `version` as this version has it. `kind` is the map's name of then. */
export function migrateEntity(kind: string, entity: unknown, version: number): unknown {
  let [name, data] = [kind, entity as Data]
  for (let n = version; n < SCHEMA_VERSION; n++) {
    const step = STEPS[n]
    data = step?.entities[name]?.(data) ?? data
    name = step?.renamed?.[name] ?? name
  }
  return data
}

/** The version an entity is of, by what it has, where nothing says so. */
export function versionOf(kind: string, entity: unknown): number {
  const data = (entity ?? {}) as Data
  if (kind === 'picks') return 3
  if (kind === 'reels') return 'gain' in data ? 5 : 'backgroundFill' in data ? 4 : 'filling' in data ? 3 : 2
  if (kind === 'tracks') return 'params' in data ? 3 : 2
  if (kind === 'assets') return 'folderId' in data ? 3 : 1
  if (kind !== 'clips') return 3
  return 'params' in data ? 3 : 'sync' in data ? 2 : 1
}

function migrated(stored: Data, version: number): Data {
  let document = stored
  for (let n = version; n < SCHEMA_VERSION; n++) {
    const { entities, renamed: names = {}, empty = [] } = STEPS[n]!
    const next: Data = { ...document, schemaVersion: n + 1 }
    for (const [kind, change] of Object.entries(entities))
      next[kind] = Object.fromEntries(
        Object.entries((document[kind] ?? {}) as Record<string, Data>).map(([id, entity]) => [id, change(entity)]),
      )
    for (const [from, to] of Object.entries(names)) {
      next[to] = next[from] ?? {}
      delete next[from]
    }
    for (const kind of empty) next[kind] ??= {}
    document = next
  }
  return document
}

/**
 * Reads a stored document of any version.
 * @throws {DocumentError} when it is newer than this program, or not a document, naming the field.
 */
export function openDocument(stored: unknown): Project {
  const document = brought(stored)
  const result = projectSchema.safeParse(document)
  if (!result.success) {
    const issue = result.error.issues[0]!
    throw new DocumentError(
      `The project is damaged at ${issue.path.join('.')}: ${issue.message}.`,
      issue.path.join('.'),
    )
  }
  return result.data
}

function brought(stored: unknown): Data {
  if (typeof stored !== 'object' || stored === null || !('schemaVersion' in stored))
    throw new DocumentError('This is not a Dusk Reel project: schemaVersion is missing.', 'schemaVersion')
  const document = stored as Data
  const version = Number(document.schemaVersion)
  if (!Number.isInteger(version) || version < 1)
    throw new DocumentError(`schemaVersion ${String(document.schemaVersion)} is not a version.`, 'schemaVersion')
  if (version > SCHEMA_VERSION)
    throw new DocumentError(
      `This project was written by a newer Dusk Reel (document version ${version}, this one reads up to ` +
        `${SCHEMA_VERSION}). Update and open it again.`,
      'schemaVersion',
    )
  return migrated(document, version)
}

/** Something that had to be left out of a damaged document. */
export interface LeftOut {
  kind: EntityKind
  id: string
  /** Its name where it has one, and what is wrong with it. */
  words: string
}

/**
 * Reads a stored document even where parts of it are damaged: those are left out, with what hangs on them, and named.
 * @throws {DocumentError} when it is no document, is newer than this program, or nothing is left to open
 */
export function salvageDocument(stored: unknown): { project: Project; leftOut: LeftOut[] } {
  const document = brought(stored)
  const whole = projectSchema.safeParse(document)
  if (whole.success) return { project: whole.data, leftOut: [] }
  const leftOut: LeftOut[] = []
  const kept: Data = { ...document }
  for (const kind of ENTITY_KINDS) {
    const map: Data = {}
    for (const [id, entity] of Object.entries((document[kind] ?? {}) as Data)) {
      const held = entitySchemas[kind].safeParse(entity)
      if (held.success && held.data.id === id) map[id] = held.data
      else {
        const issue = held.error?.issues[0]
        const name = (entity as { name?: unknown } | null)?.name
        const what = issue ? `${issue.path.join('.')}: ${issue.message}` : 'it lies under another id'
        leftOut.push({ kind, id, words: `${typeof name === 'string' && name ? name : kind} (${what})` })
      }
    }
    kept[kind] = map
  }
  if (typeof kept.name !== 'string' || kept.name.trim() === '') kept.name = 'Untitled'
  const project = openDocument(kept)
  if (Object.keys(project.reels).length === 0)
    throw new DocumentError('Nothing in this project can be read any more.', 'reels')
  return { project: settleStray(project), leftOut }
}
