import { randomUUID } from 'node:crypto'
import { eq } from 'drizzle-orm'
import {
  examine,
  BadMedia,
  exists,
  hashFile,
  makeStill,
  makeStillStrip,
  removeFile,
  sourcePaths,
  type Examined,
} from '@dusk/media'
import { announce, assets, media, ProjectMissing, type MediaFacts } from '@dusk/store'
import { mkdir } from 'node:fs/promises'
import { dirname } from 'node:path'
import type { Context } from './context'

/** Facts of an examined file, before anything was made from it. */
export function factsOf({ info, kind, timing, transform, length, notes }: Examined): MediaFacts {
  return {
    kind,
    container: info.container,
    start: info.start,
    zero: timing?.zero ?? 0,
    timed: timing?.timed ?? true,
    table: timing?.table ?? null,
    width: transform?.width ?? null,
    height: transform?.height ?? null,
    alpha: false,
    filters: transform?.filters ?? [],
    videoIndex: info.video?.index ?? null,
    videoCodec: info.video?.codec ?? null,
    rate: timing ? (timing.table.kind === 'steady' ? timing.table.rate : (info.video?.averageRate ?? null)) : null,
    variable: timing?.variable ?? false,
    length,
    sounds: info.audio.map((stream) => ({ ...stream, samples: 0 })),
    notes,
    strip: null,
    proxy: null,
  }
}

/**
 * Takes an upload in: hashes it, looks at it, moves it to its place and enters it into its project's document. After
 * this it can be edited with; the files for previewing follow.
 */
export async function examineAsset(context: Context, assetId: string): Promise<void> {
  const { connection, log, queue, storage, stopping } = context
  const { db, sql } = connection
  const [asset] = await db.select().from(assets).where(eq(assets.id, assetId))
  if (!asset || asset.state !== 'examining' || !asset.uploadPath) return
  const tell = () => announce(sql, { kind: 'asset', projectId: asset.projectId, assetId })
  try {
    const hash = await hashFile(asset.uploadPath)
    let [known] = await db.select().from(media).where(eq(media.hash, hash))
    if (!known || known.state === 'failed') {
      const examined = await examine(asset.uploadPath, asset.size, stopping)
      const facts = factsOf(examined)
      if (examined.kind === 'still') {
        const paths = sourcePaths(storage, hash)
        await mkdir(dirname(paths.stillFull), { recursive: true })
        const still = await makeStill(asset.uploadPath, examined, paths.stillFull, paths.stillProxy, stopping)
        Object.assign(facts, still)
        facts.strip = { ...(await makeStillStrip(asset.uploadPath, still, paths.strip('png'))), type: 'png' }
      }
      // A still is complete with that; others wait for their preview files.
      const state = examined.kind === 'still' ? ('ready' as const) : ('waiting' as const)
      const row = { hash, size: asset.size, facts, state, progress: state === 'ready' ? 1 : 0, message: null }
      ;[known] = await db.insert(media).values(row).onConflictDoUpdate({ target: media.hash, set: row }).returning()
    }
    // Files out of an archive lie in their place already.
    const there = asset.uploadPath === storage.original(hash)
    if (!there && (await exists(storage.original(hash)))) await removeFile(asset.uploadPath)
    else if (!there) await storage.publish(asset.uploadPath, storage.original(hash))
    await removeFile(`${asset.uploadPath}.json`)
    if (asset.replaces) return await relink(context, { ...asset, replaces: asset.replaces }, hash, known!.facts)
    await db.update(assets).set({ hash, state: 'taken', uploadPath: null }).where(eq(assets.id, assetId))
    const entry = assetEntry(assetId, asset.fileName, known!.facts)
    await log.append(asset.projectId, asset.windowId, [
      { id: randomUUID(), command: { type: 'addAsset', asset: entry } },
    ])
    await tell()
    if (known!.state === 'waiting') await queue.send('make', { hash })
  } catch (error) {
    stopping.throwIfAborted()
    if (error instanceof ProjectMissing) return
    const message = error instanceof BadMedia ? error.message : `It could not be read in: ${(error as Error).message}`
    if (!(error instanceof BadMedia)) console.error(`Examining ${assetId}:`, error)
    await removeFile(asset.uploadPath)
    await removeFile(`${asset.uploadPath}.json`)
    await db.update(assets).set({ state: 'failed', message, uploadPath: null }).where(eq(assets.id, assetId))
    await tell()
  }
}

/** Gives a source the file that was just read in, and has its preview files made anew. */
async function relink(
  { connection, log, queue }: Context,
  asset: { id: string; projectId: string; windowId: string; replaces: string },
  hash: string,
  facts: MediaFacts,
): Promise<void> {
  const { db, sql } = connection
  const { project } = await log.read(asset.projectId)
  const old = project.assets[asset.replaces]
  const entry = assetEntry(asset.replaces, old?.name ?? '', facts)
  if (old && old.kind !== entry.kind)
    throw new BadMedia(`${old.name} is a ${old.kind}, this file is another kind. Add it as a source of its own.`)
  await db.delete(assets).where(eq(assets.id, asset.id))
  await db.update(assets).set({ hash, state: 'taken' }).where(eq(assets.id, asset.replaces))
  if (facts.kind !== 'still') {
    await db.update(media).set({ state: 'waiting', progress: 0 }).where(eq(media.hash, hash))
    await queue.send('make', { hash })
  }
  await log.append(asset.projectId, asset.windowId, [{ id: randomUUID(), command: { type: 'addAsset', asset: entry } }])
  await announce(sql, { kind: 'asset', projectId: asset.projectId, assetId: asset.replaces })
}

/** A source's entry in the document, from the facts of its file. */
export function assetEntry(id: string, name: string, facts: MediaFacts) {
  const still = facts.kind === 'still' ? { width: facts.width!, height: facts.height!, alpha: facts.alpha } : undefined
  const picture =
    facts.kind === 'sound'
      ? null
      : (still && { ...still, rate: null, variable: false }) || {
          width: facts.width!,
          height: facts.height!,
          rate: facts.rate ?? { num: 30, den: 1 },
          variable: facts.variable,
          alpha: facts.alpha,
        }
  const sounds = facts.sounds.map(({ channels, title, samples }) => ({
    channels,
    title,
    length: samples > 0 ? samples * 14_700 : facts.length,
  }))
  return { id, name: name.slice(0, 200) || 'Untitled', kind: facts.kind, length: facts.length, picture, sounds }
}
