import { and, eq, inArray } from 'drizzle-orm'
import { z } from 'zod'
import {
  ARTEFACT_FILES,
  artefacts,
  assets,
  glanceArtefacts,
  isArtefactFile,
  isPieceName,
  madeArtefacts,
  media,
  piecesOf,
  previewArtefacts,
  wantArtefacts,
  type ArtefactKind,
  type WantedArtefact,
} from '@dusk/store'
import { madeName, type Project, type SourceMetadata } from '@dusk/timeline'
import { notFound } from './problem'
import { useServices } from './services'

const stripSchema = z.object({
  tileWidth: z.int(),
  tileHeight: z.int(),
  columns: z.int(),
  times: z.array(z.int()),
  type: z.enum(['jpg', 'png']),
})

/** What is known of a finished artefact, as far as the desk needs it. */
const factsSchema = z.looseObject({
  strip: stripSchema.optional(),
  width: z.int().optional(),
  height: z.int().optional(),
})

/**
 * How far a source's preview files are, for the desk. The frame table is left out: it can be long and is fetched
 * apart. Files are named by address: the same address always gives the same bytes.
 */
export interface SourceState {
  /** Of everything that previewing needs: `working` while any of it waits or is made, `failed` when any failed. */
  state: 'waiting' | 'working' | 'ready' | 'failed'
  progress: number
  message: string | null
  notes: string[]
  /** Film strip, once there is one. */
  strip: (z.infer<typeof stripSchema> & { url: string }) | null
  /** The proxy or the still's preview, once there is one. */
  picture: { url: string; width: number; height: number } | null
  /** Until there is a proxy: the folder of its finished pieces, their numbers, and where to say what is looked at. */
  pieces: { url: string; there: number[]; nearUrl: string } | null
  sounds: { channels: number; samples: number; url: string; waveformUrl: string; ready: boolean }[]
  /** Frames made between its own for slowed clips, by the name of their stretch. */
  made: Record<string, { state: 'waiting' | 'working' | 'ready' | 'failed'; progress: number; url: string }>
  /** The original as it is stored, and the still at full size as PNG. */
  originalUrl: string
  stillUrl: string | null
  tableUrl: string
  /** Frames of the original at the size of its proxy, decoded by the server: for pictures that move. */
  planesUrl: string | null
  /** The browser can decode the original itself, frame for frame, as it is. */
  plain: boolean
  codec: string | null
  container: string
  size: number
  /** When it was added, as milliseconds since 1970. */
  added: number
  /** The stored file is not where it should be. */
  missing: boolean
  /** A source that it was given for and has neither replaced nor been kept beside yet, and by which window. */
  givenFor: { assetId: string; windowId: string } | null
}

/** A file that is on its way into the library, or could not be taken in. */
export interface PendingImport {
  id: string
  fileName: string
  state: 'probing' | 'failed'
  message: string | null
}

type ArtefactRow = typeof artefacts.$inferSelect

/** Part that each kind of artefact has in a source's progress. */
const SHARE: Record<ArtefactKind, number> = { glance: 0, still: 1, sound: 0.15, proxy: 0.85, between: 0 }

/** States of a project's sources by asset, and pendingImports. Asks for preview files that nobody asked for yet. */
export async function projectSources(
  projectId: string,
): Promise<{ sources: Record<string, SourceState>; pendingImports: PendingImport[] }> {
  const { db, log, queue } = useServices()
  const rows = await db
    .select({ asset: assets, media })
    .from(assets)
    .leftJoin(media, eq(assets.hash, media.hash))
    .where(eq(assets.projectId, projectId))
  const hashes = [...new Set(rows.flatMap(({ media: file }) => (file ? [file.hash] : [])))]
  const made = new Map<string, ArtefactRow>()
  if (hashes.length > 0)
    for (const row of await db.select().from(artefacts).where(inArray(artefacts.source, hashes))) made.set(row.key, row)

  // Side by side: in a bucket each is a question over the network.
  const missing = new Map(await Promise.all(hashes.map(async (hash) => [hash, await isMissing(hash)] as const)))
  const hashOf = new Map(rows.flatMap(({ asset, media: file }) => (file ? [[asset.id, file.hash] as const] : [])))
  const { project } = await log.read(projectId)
  const between = madeArtefacts(project, (id) => hashOf.get(id))
  const sources: Record<string, SourceState> = {}
  const pendingImports: PendingImport[] = []
  const wanted: WantedArtefact[] = between.map(({ artefact }) => artefact).filter(({ key }) => !made.has(key))
  for (const { asset, media: file } of rows) {
    if (asset.state === 'failed' && project.assets[asset.id]) sources[asset.id] = lostSource(asset)
    if (asset.state !== 'ready') {
      const state = asset.state === 'failed' ? ('failed' as const) : ('probing' as const)
      if (!asset.dismissed)
        pendingImports.push({ id: asset.id, fileName: asset.fileName, state, message: asset.message })
    } else if (file) {
      wanted.push(...previewArtefacts(file.hash, file.metadata).filter(({ key }) => !made.has(key)))
      sources[asset.id] = {
        ...sourceState(file, made, asset.createdAt, missing.get(file.hash)!),
        givenFor: asset.dismissed ? null : givenFor(asset, project),
      }
    }
  }
  for (const { artefact: entry, ...segment } of between) {
    const row = made.get(entry.key)
    const source = sources[segment.assetId]
    if (source)
      source.made[madeName(segment)] = {
        state: row?.state ?? 'waiting',
        progress: row?.progress ?? 0,
        url: `/api/artefacts/${entry.key}/${ARTEFACT_FILES.between.proxy}`,
      }
  }
  if (wanted.length > 0) await db.transaction((tx) => wantArtefacts(tx, queue, wanted))
  return { sources, pendingImports }
}

/** A source of the document whose file was never here. */
function lostSource({ message, createdAt }: typeof assets.$inferSelect): SourceState {
  return {
    ...{ state: 'failed', progress: 0, message, notes: [], strip: null, picture: null, pieces: null, sounds: [] },
    made: {},
    ...{ originalUrl: '', stillUrl: null, tableUrl: '', planesUrl: null, plain: false, codec: null, container: '' },
    ...{ size: 0, added: createdAt.getTime(), missing: true, givenFor: null },
  }
}

function givenFor({ id, replaces, windowId }: typeof assets.$inferSelect, { assets: all }: Project) {
  return replaces && all[replaces] && all[id] ? { assetId: replaces, windowId } : null
}

async function isMissing(hash: string): Promise<boolean> {
  const { storage } = useServices()
  return !(await storage.has(storage.original(hash)))
}

/** The browser can decode the original itself, frame for frame, as it is. */
function isPlain({ filters, videoCodec, container }: SourceMetadata): boolean {
  return (
    filters.length === 0 && /^(h264|vp8|vp9|av1)$/.test(videoCodec ?? '') && /mp4|mov|matroska|webm/.test(container)
  )
}

function sourceState(
  file: typeof media.$inferSelect,
  made: ReadonlyMap<string, ArtefactRow>,
  added: Date,
  missing: boolean,
): SourceState {
  const { hash, metadata } = file
  const wanted = previewArtefacts(hash, metadata)
  const rows = wanted.map(({ key }) => made.get(key))
  const url = (key: string, name: string) => `/api/artefacts/${key}/${name}`
  const shown = wanted.find(({ kind }) => kind !== 'sound')
  const shownRow = shown && made.get(shown.key)
  const facts = shownRow?.state === 'ready' ? factsSchema.parse(shownRow.facts ?? {}) : null
  const failed = rows.find((row) => row?.state === 'failed')
  const whole = wanted.reduce((sum, { kind }) => sum + SHARE[kind], 0) || 1
  const done = rows.reduce((sum, row) => sum + (row ? SHARE[row.kind] * row.progress : 0), 0)
  const ready = rows.every((row) => row?.state === 'ready')
  const working = rows.some((row) => row && row.state !== 'waiting')
  return {
    state: failed ? 'failed' : ready ? 'ready' : working ? 'working' : 'waiting',
    progress: done / whole,
    message: (failed ?? rows.find((row) => row?.message))?.message ?? null,
    notes: metadata.notes,
    strip: stripOf([...(shown ? [shown] : []), ...glanceArtefacts(hash, metadata).reverse()], made),
    picture: !facts
      ? null
      : metadata.kind === 'still'
        ? { url: url(shown!.key, ARTEFACT_FILES.still.picture), width: metadata.width!, height: metadata.height! }
        : { url: url(shown!.key, ARTEFACT_FILES.proxy.video), width: facts.width!, height: facts.height! },
    pieces: !facts && shown?.kind === 'proxy' ? piecesState(hash, shown.key, shownRow) : null,
    sounds: metadata.sounds.map(({ channels, samples }, stream) => {
      const entry = wanted.find(({ kind, settings }) => kind === 'sound' && settings.stream === stream)!
      return {
        channels,
        samples,
        url: url(entry.key, ARTEFACT_FILES.sound.samples),
        waveformUrl: url(entry.key, ARTEFACT_FILES.sound.waveform),
        ready: made.get(entry.key)?.state === 'ready',
      }
    }),
    made: {},
    originalUrl: `/api/media/${hash}/original`,
    stillUrl: metadata.kind === 'still' ? `/api/media/${hash}/still` : null,
    tableUrl: `/api/media/${hash}/frames`,
    planesUrl: metadata.kind === 'video' ? `/api/media/${hash}/planes` : null,
    plain: isPlain(metadata),
    codec: metadata.videoCodec ?? metadata.sounds[0]?.codec ?? metadata.stillFormat,
    container: metadata.container,
    size: file.size,
    added: added.getTime(),
    missing,
    givenFor: null,
  }
}

function piecesState(hash: string, key: string, row: ArtefactRow | undefined): SourceState['pieces'] {
  const there = Object.keys(piecesOf(row?.facts ?? null)).map(Number)
  return { url: `/api/artefacts/${key}`, there, nearUrl: `/api/media/${hash}/near` }
}

/** The best film strip that there is of some. */
function stripOf(wanted: readonly WantedArtefact[], made: ReadonlyMap<string, ArtefactRow>): SourceState['strip'] {
  for (const { key } of wanted) {
    const row = made.get(key)
    const { strip } = row?.state === 'ready' ? factsSchema.parse(row.facts ?? {}) : {}
    if (strip) return { ...strip, url: `/api/artefacts/${key}/${ARTEFACT_FILES.strip[strip.type]}` }
  }
  return null
}

/** A stored file by its hash. @throws 404 */
export async function storedFile(hash: string) {
  const { db } = useServices()
  const [row] = await db.select().from(media).where(eq(media.hash, hash))
  if (!row) throw notFound('stored file')
  return row
}

/** A file of an artefact; only pieces are there before it is finished. @throws 404 */
export async function artefactFile(key: string, name: string): Promise<string> {
  const { db, storage } = useServices()
  const [row] = await db.select({ state: artefacts.state }).from(artefacts).where(eq(artefacts.key, key))
  if (!row || !isArtefactFile(name) || (row.state !== 'ready' && !isPieceName(name))) throw notFound('file')
  return storage.artefact(key, name)
}

/** A picture that stands for a source: the first on a film strip. */
export interface Poster {
  url: string
  tileWidth: number
  tileHeight: number
}

/** The poster of each source that has a film strip. */
export async function posters(assetIds: readonly string[]): Promise<Map<string, Poster>> {
  const { db } = useServices()
  const found = new Map<string, Poster>()
  const best = new Map<string, number>()
  const ranked = ({ hash, metadata }: typeof media.$inferSelect) =>
    [...previewArtefacts(hash, metadata), ...glanceArtefacts(hash, metadata).reverse()].map(({ key }) => key)
  if (assetIds.length === 0) return found
  const rows = await db
    .select({ id: assets.id, file: media, row: artefacts })
    .from(assets)
    .innerJoin(media, eq(media.hash, assets.hash))
    .innerJoin(artefacts, eq(artefacts.source, media.hash))
    .where(and(inArray(assets.id, [...assetIds]), eq(artefacts.state, 'ready')))
  for (const { id, file, row } of rows) {
    const { strip } = factsSchema.parse(row.facts ?? {})
    const rank = ranked(file).indexOf(row.key)
    if (!strip || rank < 0 || rank >= (best.get(id) ?? Infinity)) continue
    best.set(id, rank)
    const url = `/api/artefacts/${row.key}/${ARTEFACT_FILES.strip[strip.type]}`
    found.set(id, { url, tileWidth: strip.tileWidth, tileHeight: strip.tileHeight })
  }
  return found
}
