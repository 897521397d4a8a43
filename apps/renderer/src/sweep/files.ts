import { rm, rmdir } from 'node:fs/promises'
import { join } from 'node:path'
import { and, eq, inArray, isNotNull, isNull, like, sql } from 'drizzle-orm'
import { deliveryOf } from '@dusk/interchange'
import {
  clearLeftScratch,
  ownScratchName,
  passingFiles,
  uploadNames,
  type Storage,
  type StoredEntry,
} from '@dusk/media'
import { artefacts, assets, livingNames, media, projects, renders, withFile, type Database } from '@dusk/store'

async function removeUnless(
  storage: Storage,
  files: readonly StoredEntry[],
  wanted: ReadonlySet<string>,
  before: Date,
): Promise<number> {
  let bytes = 0
  for (const { path, name, at, bytes: own } of files) {
    if (wanted.has(name) || at >= before.getTime()) continue
    await storage.remove(path)
    bytes += own
  }
  return bytes
}

/** Removes originals, artefacts and finished renders that no row speaks of, as after a crash. Returns bytes freed. */
export async function sweepStrays(db: Database, storage: Storage, before: Date): Promise<number> {
  const keysOf = async (rows: Promise<{ key: string }[]>) => new Set((await rows).map((row) => row.key))
  const hashes = await keysOf(db.select({ key: media.hash }).from(media))
  // Files of an archive lie in their place before they are looked at.
  for (const { path } of await db.select({ path: assets.uploadPath }).from(assets))
    if (path) hashes.add(path.split('/').at(-1)!)
  let bytes = 0
  for (const { path, name, at, bytes: own } of await storage.list(storage.path('originals'), 2)) {
    if (hashes.has(name) || at >= before.getTime()) continue
    // Somebody may take in the very same file just now.
    bytes += await withFile(db, name, async (tx) => {
      const [known] = await tx.select({ hash: media.hash }).from(media).where(eq(media.hash, name))
      const [coming] = await tx
        .select({ id: assets.id })
        .from(assets)
        .where(like(assets.uploadPath, `%${name}`))
      if (known || coming) return 0
      await storage.remove(path)
      return own
    })
  }
  const keys = await keysOf(db.select({ key: artefacts.key }).from(artefacts))
  bytes += await removeUnless(storage, await storage.list(storage.path('artefacts'), 2), keys, before)
  const drawn = await keysOf(
    db
      .select({ key: sql<string>`${projects.id}::text || '-' || ${projects.posterSeq}::text || '.jpg'` })
      .from(projects)
      .where(and(isNotNull(projects.posterSeq), isNull(projects.deletedAt))),
  )
  bytes += await removeUnless(storage, await storage.list(storage.path('posters'), 1), drawn, before)
  const made = new Set<string>()
  for (const { id, settings } of await db.select({ id: renders.id, settings: renders.settings }).from(renders))
    made.add(`${id}.${deliveryOf(settings.format).ending}`).add(`${id}.jpg`)
  bytes += await removeUnless(storage, await storage.list(storage.path('renders'), 1), made, before)
  // What versions before this one kept its previews in.
  await rm(storage.path('derived'), { recursive: true, force: true })
  return bytes
}

/** Removes work files of processes that are gone, and uploads that nobody goes on with. Returns bytes freed. */
export async function sweepLeftovers(
  db: Database,
  storage: Storage,
  before: { scratch: Date; uploads: Date },
): Promise<number> {
  await clearLeftScratch(storage.path('scratch'))
  await clearLeftScratch(passingFiles())
  // Those of other machines tell nothing but their age: of a folder, that of what was written in it last.
  let bytes = 0
  for (const folder of await storage.list(storage.path('scratch'), 1)) {
    const inner = await storage.list(folder.path, 1)
    const at = Math.max(folder.at, ...inner.map((file) => file.at))
    bytes += await removeUnless(storage, [{ ...folder, at }], new Set([ownScratchName()]), before.scratch)
  }
  const waiting = new Set<string>()
  for (const { path } of await db.select({ path: assets.uploadPath }).from(assets)) {
    if (!path) continue
    for (const name of uploadNames(path.split('/').at(-1)!)) waiting.add(name)
  }
  bytes += await removeUnless(storage, await storage.list(storage.path('uploads'), 1), waiting, before.uploads)
  return bytes
}

/** Removes files of effects that no document, edit or waiting render names. Returns bytes freed. */
export async function sweepGiven(db: Database, storage: Storage, before: Date): Promise<number> {
  const files = (await storage.list(storage.path('given'), 1)).filter(
    ({ name, at }) => at < before.getTime() && /^[0-9a-f]{64}$/.test(name),
  )
  const named = await livingNames(
    db,
    files.map(({ name }) => name),
  )
  return removeUnless(storage, files, named, before)
}

/**
 * Keeps the chunks of renders within a limit: those longest not used go first, never one that a running render may
 * count on. Returns bytes freed.
 */
export async function sweepChunks(db: Database, storage: Storage, limit: number): Promise<number> {
  const files = (await storage.list(storage.path('chunks'), 2)).sort((a, b) => a.at - b.at)
  let total = files.reduce((sum, file) => sum + file.bytes, 0)
  const [row] = await db
    .select({ since: sql<string | null>`min(coalesce(${renders.startedAt}, ${renders.createdAt}))` })
    .from(renders)
    // Of one that is paused they can be made again: it may be forgotten, and would keep all of them for good.
    .where(inArray(renders.state, ['waiting', 'working']))
  const pinned = row?.since ? new Date(row.since).getTime() : Infinity
  let bytes = 0
  for (const file of files) {
    if (total <= limit) break
    if (file.at >= pinned) continue
    await storage.remove(file.path)
    await rmdir(join(file.path, '..')).catch(() => {})
    total -= file.bytes
    bytes += file.bytes
  }
  return bytes
}
