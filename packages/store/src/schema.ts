import {
  bigint,
  boolean,
  customType,
  index,
  integer,
  jsonb,
  pgTable,
  primaryKey,
  real,
  text,
  timestamp,
  unique,
  uuid,
} from 'drizzle-orm/pg-core'
import type { Command, Patch, Project } from '@dusk/timeline'
import type { LegacyChange } from './migrateLog'
import type { SourceMetadata } from '@dusk/timeline'
import type { ArtefactKind } from './artefacts'
import type { PostFile, PostWords } from '@dusk/interchange'
import type { PostThumbnail, RenderEstimate, RenderProgress, RenderReport, RenderSettings } from './shapes'

/** Bytes. */
const bytea = customType<{ data: Buffer }>({ dataType: () => 'bytea' })

const at = (name: string) => timestamp(name, { withTimezone: true })

/**
 * What every row has that workers work on. It waits, is worked on and ends; whoever works on it says so again every few
 * seconds. A row that falls silent goes to another worker with the next attempt, and the number of the attempt fences
 * off the one that lost it.
 */
const work = () => ({
  state: text('state').$type<WorkState>().notNull(),
  message: text('message'),
  attempt: integer('attempt').notNull().default(0),
  heartbeatAt: at('heartbeat_at'),
})
export type WorkState = 'waiting' | 'working' | 'ready' | 'failed'

/** A project with a snapshot of its document; the log from `documentSeq` on brings it up to `seq`. */
export const projects = pgTable(
  'projects',
  {
    id: uuid('id').primaryKey(),
    name: text('name').notNull(),
    document: jsonb('document').$type<Project>().notNull(),
    documentSeq: integer('document_seq').notNull(),
    seq: integer('seq').notNull(),
    /** Length of the first reel in ticks, and a source to show on the project's card. */
    length: bigint('length', { mode: 'number' }).notNull().default(0),
    posterAsset: uuid('poster_asset'),
    /** The edit after which its poster was drawn last; `null` before there is one. */
    posterSeq: integer('poster_seq'),
    createdAt: at('created_at').notNull().defaultNow(),
    editedAt: at('edited_at').notNull().defaultNow(),
    deletedAt: at('deleted_at'),
  },
  (table) => [index('projects_by_edit').on(table.editedAt)],
)

/** Every edit of every project, in order. */
export const projectEdits = pgTable(
  'project_edits',
  {
    projectId: uuid('project_id')
      .notNull()
      .references(() => projects.id, { onDelete: 'cascade' }),
    seq: integer('seq').notNull(),
    id: uuid('id').notNull(),
    command: jsonb('command').$type<Command>().notNull(),
    windowId: text('window_id').notNull(),
    label: text('label').notNull(),
    /**
     * What came of it; from these any earlier state is put together. `null` where the command itself says it, as what
     * is taken back does.
     */
    patches: jsonb('patches').$type<Patch[]>(),
    /** Version of the document that the patches are about. */
    version: integer('version').notNull().default(3),
    /** What took the edit back, and the project's name before it, as versions 1 to 3 kept it. */
    undo: jsonb('undo').$type<LegacyChange[]>(),
    nameBefore: text('name_before'),
    at: at('at').notNull().defaultNow(),
  },
  (table) => [primaryKey({ columns: [table.projectId, table.seq] }), unique('edit_once').on(table.projectId, table.id)],
)

/** A stored file, by the SHA-256 of its bytes. */
export const media = pgTable('media', {
  hash: text('hash').primaryKey(),
  size: bigint('size', { mode: 'number' }).notNull(),
  metadata: jsonb('metadata').$type<SourceMetadata>().notNull(),
  createdAt: at('created_at').notNull().defaultNow(),
})

/**
 * Something worked out from stored files: a proxy, a sound, a film strip. Its key is the hash of its kind, the version
 * of the method, the files and the settings: the same key always means the same content.
 */
export const artefacts = pgTable(
  'artefacts',
  {
    key: text('key').primaryKey(),
    kind: text('kind').$type<ArtefactKind>().notNull(),
    /** The first of the files it is made from; it goes with it. */
    source: text('source')
      .notNull()
      .references(() => media.hash, { onDelete: 'cascade' }),
    settings: jsonb('settings').$type<Record<string, unknown>>().notNull(),
    ...work(),
    progress: real('progress').notNull().default(0),
    /** What is known of the result, by its kind. */
    facts: jsonb('facts').$type<Record<string, unknown>>(),
    /** A frame of the source that somebody looks at while it is not there yet, and since when. */
    near: integer('near'),
    nearAt: at('near_at'),
    bytes: bigint('bytes', { mode: 'number' }).notNull().default(0),
    createdAt: at('created_at').notNull().defaultNow(),
  },
  (table) => [index('artefacts_by_source').on(table.source)],
)

/** A file that a person added to a project. It enters the document once it was probed. */
export const assets = pgTable(
  'assets',
  {
    id: uuid('id').primaryKey(),
    projectId: uuid('project_id')
      .notNull()
      .references(() => projects.id, { onDelete: 'cascade' }),
    hash: text('hash').references(() => media.hash),
    fileName: text('file_name').notNull(),
    size: bigint('size', { mode: 'number' }).notNull(),
    uploadPath: text('upload_path'),
    windowId: text('window_id').notNull(),
    ...work(),
    dismissed: boolean('dismissed').notNull().default(false),
    /** A source that this file was given for; whether it takes its place is decided at the desk. */
    replaces: uuid('replaces'),
    createdAt: at('created_at').notNull().defaultNow(),
  },
  (table) => [index('assets_by_project').on(table.projectId), index('assets_by_hash').on(table.hash)],
)

/** A render, with the document as it was when it was asked for. */
export const renders = pgTable(
  'renders',
  {
    id: uuid('id').primaryKey(),
    projectId: uuid('project_id')
      .notNull()
      .references(() => projects.id, { onDelete: 'cascade' }),
    reelId: uuid('reel_id').notNull(),
    name: text('name').notNull(),
    settings: jsonb('settings').$type<RenderSettings>().notNull(),
    document: jsonb('document').$type<Project>().notNull(),
    ...work(),
    state: text('state').$type<WorkState | 'cancelled' | 'paused'>().notNull(),
    /** Waiting renders are made in this order, the lowest first. */
    place: bigint('place', { mode: 'number' }).notNull().default(0),
    progress: jsonb('progress').$type<RenderProgress>(),
    report: jsonb('report').$type<RenderReport>(),
    createdAt: at('created_at').notNull().defaultNow(),
    startedAt: at('started_at'),
    endedAt: at('ended_at'),
  },
  (table) => [index('renders_by_project').on(table.projectId, table.createdAt)],
)

/** A finished render that is sent to a place, or was. */
export const posts = pgTable(
  'posts',
  {
    id: uuid('id').primaryKey(),
    renderId: uuid('render_id')
      .notNull()
      .references(() => renders.id, { onDelete: 'cascade' }),
    /** What the place is called. */
    place: text('place').notNull(),
    words: jsonb('words').$type<PostWords>().notNull(),
    file: jsonb('file').$type<PostFile>().notNull(),
    thumbnail: jsonb('thumbnail').$type<PostThumbnail>(),
    /** The thumbnail's file, where it is no picture out of the film. */
    picture: bytea('picture'),
    ...work(),
    state: text('state').$type<WorkState | 'cancelled'>().notNull(),
    /** What the place knows of it: its id there, and where its bytes go. */
    remote: jsonb('remote').$type<{ id: string; upload: string | null }>(),
    /** Bytes that have arrived. */
    sent: bigint('sent', { mode: 'number' }).notNull().default(0),
    /** Where it can be seen. */
    page: text('page'),
    createdAt: at('created_at').notNull().defaultNow(),
    endedAt: at('ended_at'),
  },
  (table) => [index('posts_by_render').on(table.renderId, table.createdAt)],
)

/**
 * A stretch of a render's frames that is made by itself, by whichever worker takes it. Whoever draws it says so every
 * second; one that falls silent is drawn by another with the next attempt.
 */
export const renderChunks = pgTable(
  'render_chunks',
  {
    renderId: uuid('render_id')
      .notNull()
      .references(() => renders.id, { onDelete: 'cascade' }),
    /** Its number within the render, from 0. */
    n: integer('n').notNull(),
    /** Name of its file: a hash of everything its bytes depend on. */
    key: text('key').notNull(),
    /** Output frames, half-open. */
    first: integer('first').notNull(),
    end: integer('end').notNull(),
    /** `kept` from an earlier render, or how far this one is with it. */
    state: text('state').$type<ChunkState>().notNull(),
    attempt: integer('attempt').notNull().default(0),
    heartbeatAt: at('heartbeat_at'),
    /** Who draws it or drew it: machine and process. */
    worker: text('worker'),
    /** Frames drawn so far. */
    drawn: integer('drawn').notNull().default(0),
  },
  (table) => [primaryKey({ columns: [table.renderId, table.n] })],
)
export type ChunkState = 'kept' | 'waiting' | 'working' | 'ready'

/**
 * A look ahead at what a render would come to. Some of its chunks are made for it, which the render then finds made;
 * a worker goes on with that as long as somebody asks.
 */
export const estimates = pgTable('estimates', {
  id: uuid('id').primaryKey(),
  projectId: uuid('project_id')
    .notNull()
    .references(() => projects.id, { onDelete: 'cascade' }),
  reelId: uuid('reel_id').notNull(),
  settings: jsonb('settings').$type<RenderSettings>().notNull(),
  document: jsonb('document').$type<Project>().notNull(),
  /** When somebody asked for it last. */
  wantedAt: at('wanted_at').notNull().defaultNow(),
  /** What is known so far; `null` before there is anything. */
  found: jsonb('found').$type<RenderEstimate>(),
  /** Why there will be none. */
  message: text('message'),
  /** When it was as good as it gets. */
  endedAt: at('ended_at'),
})

/** Settings of the person, not of a project. */
export const settings = pgTable('settings', { key: text('key').primaryKey(), value: jsonb('value').notNull() })
