import { stat } from 'node:fs/promises'
import { eq } from 'drizzle-orm'
import { assetFacts, type SourceMetadata } from '@dusk/timeline'
import { BadMedia, convertAnimatedWebp, examine, hashUpload, isAnimatedWebp, removeUpload } from '@dusk/media'
import {
  announce,
  assets,
  glanceArtefacts,
  media,
  previewArtefacts,
  ProjectMissing,
  wantArtefacts,
  withFile,
  type Job,
} from '@dusk/store'
import { addToDocument } from './addToDocument'
import { makeArtefact } from './artefact'
import { runClaimed, WorkLost } from './claimed'
import type { Context } from './context'

type AssetRow = typeof assets.$inferSelect

/**
 * Takes an upload in: hashes it, looks at it, moves it to its place and enters it into its project's document. After
 * this it can be edited with; the files for previewing follow.
 */
export async function probeAsset(context: Context, job: Job): Promise<void> {
  const { connection, log, queue, storage } = context
  const { db, sql } = connection
  const tell = (asset: AssetRow, id = asset.id) =>
    announce(sql, { kind: 'asset', projectId: asset.projectId, assetId: id })

  await runClaimed(context, 'probe', job, {
    async run(claim, signal) {
      const asset = claim.row
      await makeReadable(asset, signal)
      const { hash, path } = await locate(asset)
      const { size } = await stat(path)
      const [known] = await db.select().from(media).where(eq(media.hash, hash))
      const metadata = known?.metadata ?? withOrigin(asset, await examine(path, size, signal))
      // The row knows the file by its hash before the file moves: whoever goes on from here finds it.
      await withFile(db, hash, async (tx) => {
        await tx.insert(media).values({ hash, size, metadata }).onConflictDoNothing()
        if (!(await claim.write({ hash }, tx))) throw new WorkLost()
      })
      // And it is moved while nobody removes the one that is there already.
      if (path !== storage.original(hash)) {
        await withFile(db, hash, async () => {
          if (!(await storage.has(storage.original(hash)))) await storage.publish(path, storage.original(hash))
        })
        await removeUpload(storage, path)
      }
      if (await isBack(asset, hash)) await giveBack({ ...asset, replaces: asset.replaces! }, hash, metadata)
      else {
        // Another file comes in as a source of its own: what it may cost to use it is decided at the desk.
        await addToDocument(context, asset, assetFacts(asset.id, asset.fileName, metadata))
        await db.transaction(async (tx) => {
          if (!(await claim.write({ hash, state: 'ready', uploadPath: null, message: null }, tx))) throw new WorkLost()
          const wanted = [...glanceArtefacts(hash, metadata), ...previewArtefacts(hash, metadata)]
          await wantArtefacts(tx, queue, wanted, { again: true })
        })
        await tell(asset)
        // What shows what it is comes at once; the rest has its turn in the queue.
        const [first] = glanceArtefacts(hash, metadata)
        if (first) await makeArtefact(context, { id: first.key, attempt: 0 })
      }
    },
    tell: (claim) => tell(claim.row),
    async fail(claim, message) {
      const { uploadPath } = claim.row
      await claim.write({ state: 'failed', message, uploadPath: null })
      await tell(claim.row)
      // Files out of an archive lie in their place already, and others may use them.
      if (uploadPath && storage.at(uploadPath).startsWith(storage.path('uploads')))
        await removeUpload(storage, storage.at(uploadPath))
    },
    final: (error) => (error instanceof ProjectMissing ? 'Its project was deleted.' : null),
  })

  /** Puts footage that decoders read in the place of what they don't, without any loss. */
  async function makeReadable(asset: AssetRow, signal: AbortSignal): Promise<void> {
    const uploadPath = await uploadOf(asset)
    if (!uploadPath || !(await isAnimatedWebp(uploadPath))) return
    const scratch = storage.scratchSet()
    try {
      const out = await scratch.scratch('.mkv')
      await convertAnimatedWebp(uploadPath, out, signal)
      await storage.publish(out, uploadPath)
    } finally {
      await scratch.clear()
    }
  }

  /** Path of the upload, brought to this machine; `null` when it is not there any more. */
  async function uploadOf(asset: AssetRow): Promise<string | null> {
    const path = asset.uploadPath && storage.at(asset.uploadPath)
    return path && (await storage.fetch(path)) ? path : null
  }

  /** Where the file lies, wherever an earlier attempt left off. */
  async function locate(asset: AssetRow): Promise<{ hash: string; path: string }> {
    const uploadPath = await uploadOf(asset)
    if (uploadPath) return { hash: await hashUpload(storage, uploadPath), path: uploadPath }
    if (asset.hash && (await storage.fetch(storage.original(asset.hash))))
      return { hash: asset.hash, path: storage.original(asset.hash) }
    throw new BadMedia('The uploaded file is no longer on the disk. Add it again.')
  }

  /** Whether a file is the very one that a source has, given again because it was missing. */
  async function isBack(asset: AssetRow, hash: string): Promise<boolean> {
    if (!asset.replaces) return false
    const [old] = await db.select({ hash: assets.hash }).from(assets).where(eq(assets.id, asset.replaces))
    return old?.hash === hash
  }

  /** A source has its file again; nothing of it changes but what is known of it better now. */
  async function giveBack(
    asset: AssetRow & { replaces: string },
    hash: string,
    metadata: SourceMetadata,
  ): Promise<void> {
    const { project } = await log.read(asset.projectId)
    const old = project.assets[asset.replaces]
    if (old) await addToDocument(context, asset, assetFacts(asset.replaces, old.name, metadata), { again: true })
    await db.transaction(async (tx) => {
      await tx.update(assets).set({ state: 'ready' }).where(eq(assets.id, asset.replaces))
      await tx.delete(assets).where(eq(assets.id, asset.id))
      await wantArtefacts(tx, queue, previewArtefacts(hash, metadata), { again: true })
    })
    await tell(asset, asset.replaces)
  }
}

/** What is known of a file, with what it was before it was made readable. */
function withOrigin({ fileName }: AssetRow, metadata: SourceMetadata): SourceMetadata {
  const converted = /\.webp$/i.test(fileName) && metadata.videoCodec === 'ffv1'
  return converted
    ? { ...metadata, notes: ['An animated WebP, kept as footage without loss.', ...metadata.notes] }
    : metadata
}
