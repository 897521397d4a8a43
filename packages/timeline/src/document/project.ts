import { z } from 'zod'
import { assetSchema } from './asset'
import { clipSchema } from './clip'
import { effectSchema } from './effect'
import { folderSchema } from './folder'
import { markerSchema } from './marker'
import { subclipSchema } from './subclip'
import { reelSchema } from './reel'
import { trackSchema } from './track'
import { transitionSchema } from './transition'
import { idSchema, nameSchema } from './values'

/** Version of the document that this code writes; {@link ../document/migrate} brings older ones up to it. */
export const SCHEMA_VERSION = 5

/** The whole document. Entities live in maps by id; `order` keys, not positions, say what comes before what. */
export const projectSchema = z.object({
  schemaVersion: z.literal(SCHEMA_VERSION),
  id: idSchema,
  name: nameSchema,
  assets: z.record(idSchema, assetSchema),
  reels: z.record(idSchema, reelSchema),
  tracks: z.record(idSchema, trackSchema),
  clips: z.record(idSchema, clipSchema),
  transitions: z.record(idSchema, transitionSchema),
  markers: z.record(idSchema, markerSchema),
  subclips: z.record(idSchema, subclipSchema),
  folders: z.record(idSchema, folderSchema),
  effects: z.record(idSchema, effectSchema),
})

export type Project = z.infer<typeof projectSchema>

/** Names of the document's entity maps. */
export const ENTITY_KINDS = [
  'assets',
  'reels',
  'tracks',
  'clips',
  'transitions',
  'markers',
  'subclips',
  'folders',
  'effects',
] as const
export type EntityKind = (typeof ENTITY_KINDS)[number]
export type Entity<K extends EntityKind> = Project[K][string]

/** Schema of one entity of each kind. */
export const entitySchemas = {
  assets: assetSchema,
  reels: reelSchema,
  tracks: trackSchema,
  clips: clipSchema,
  transitions: transitionSchema,
  markers: markerSchema,
  subclips: subclipSchema,
  folders: folderSchema,
  effects: effectSchema,
} as const
