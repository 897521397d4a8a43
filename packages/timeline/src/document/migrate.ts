import { projectSchema, SCHEMA_VERSION, type Project } from './project'

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

const each = (map: unknown, change: (entity: Record<string, unknown>) => Record<string, unknown>) =>
  Object.fromEntries(
    Object.entries((map ?? {}) as Record<string, Record<string, unknown>>).map(([id, entity]) => [id, change(entity)]),
  )

/** Version 2 has markers, picks, folders, groups, notes and what keeps linked clips in sync. */
function toVersion2(old: Record<string, unknown>): Record<string, unknown> {
  return {
    ...old,
    schemaVersion: 2,
    assets: each(old.assets, (asset) => ({ ...asset, folderId: null, label: null, note: '' })),
    clips: each(old.clips, (clip) => ({ ...clip, sync: 0, group: null, note: '' })),
    markers: {},
    picks: {},
    folders: {},
  }
}

/** Version 3 has transitions and one bag of settings, with keyframes, where place and opacity were. */
function toVersion3(old: Record<string, unknown>): Record<string, unknown> {
  return {
    ...old,
    schemaVersion: 3,
    reels: each(old.reels, (reel) => ({ ...reel, filling: 'none' })),
    tracks: each(old.tracks, (track) => ({ ...track, params: {} })),
    clips: each(old.clips, ({ opacity, place, ...clip }) => {
      const { x = 0, y = 0, scale = 1, turn = 0 } = (place ?? {}) as Record<string, number>
      const params: Record<string, unknown> = {}
      if (x !== 0 || y !== 0) params.position = [x, y]
      if (scale !== 1) params.size = scale * 100
      if (turn !== 0) params.turn = turn
      if (opacity !== undefined && opacity !== 1) params.opacity = typeof opacity === 'number' ? opacity * 100 : opacity
      return { ...clip, params }
    }),
    transitions: {},
  }
}

type Step = (old: Record<string, unknown>) => Record<string, unknown>

/** `MIGRATIONS[n]` turns a document of version n into one of version n + 1. */
const MIGRATIONS: Record<number, Step> = {
  1: toVersion2,
  2: toVersion3,
}

/**
 * Reads a stored document of any version.
 * @throws {DocumentError} when it is newer than this program, or not a document, naming the field.
 */
export function openDocument(stored: unknown): Project {
  if (typeof stored !== 'object' || stored === null || !('schemaVersion' in stored))
    throw new DocumentError('This is not a Dusk Reel project: schemaVersion is missing.', 'schemaVersion')
  let document = stored as Record<string, unknown>
  let version = Number(document.schemaVersion)
  if (!Number.isInteger(version) || version < 1)
    throw new DocumentError(`schemaVersion ${String(document.schemaVersion)} is not a version.`, 'schemaVersion')
  if (version > SCHEMA_VERSION)
    throw new DocumentError(
      `This project was written by a newer Dusk Reel (document version ${version}, this one reads up to ` +
        `${SCHEMA_VERSION}). Update and open it again.`,
      'schemaVersion',
    )
  for (; version < SCHEMA_VERSION; version++) document = MIGRATIONS[version]!(document)
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
