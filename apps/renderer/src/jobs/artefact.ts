import { stat } from 'node:fs/promises'
import { and, eq } from 'drizzle-orm'
import { isUndecodable } from '@dusk/media'
import { announce, artefacts, assets, media, ProjectMissing, type Claim, type Job } from '@dusk/store'
import { assetFacts, type SourceMetadata } from '@dusk/timeline'
import { ARTEFACTS } from '../artefacts'
import { addToDocument } from './addToDocument'
import { runClaimed, WorkLost } from './claimed'
import type { Context } from './context'
import { pieceShelf } from './pieceShelf'

/** How often progress is written, in milliseconds. */
const TELL_MS = 400

/** Works out an artefact and puts its files in their place. */
export async function makeArtefact(
  context: Context,
  job: Job,
  queue: 'artefact' | 'proxy' = 'artefact',
): Promise<void> {
  const { connection, storage } = context
  const { db, sql } = connection

  await runClaimed(context, queue, job, {
    async run(claim, signal) {
      const { key, kind, source, settings } = claim.row
      const metadata = await metadataOf(source)
      const scratch = storage.scratchSet()
      let told = 0
      const progress = (part: number) => {
        if (Date.now() - told < TELL_MS) return
        told = Date.now()
        void claim
          .write({ progress: part, heartbeatAt: new Date() })
          .then(() => announce(sql, { kind: 'media', hash: source }))
          .catch(() => {})
      }
      try {
        await storage.fetch(storage.original(source))
        const made = await ARTEFACTS[kind].make({
          original: storage.original(source),
          hash: source,
          metadata,
          settings,
          storage: scratch,
          pieces: pieceShelf(context, claim as Claim<'proxy'>),
          signal,
          progress,
        })
        let bytes = 0
        for (const [name, path] of Object.entries(made.files)) {
          bytes += (await stat(path)).size
          await storage.publish(path, storage.artefact(key, name))
        }
        await db.transaction(async (tx) => {
          const ended = { state: 'ready' as const, progress: 1, message: null, facts: made.facts, bytes }
          if (!(await claim.write(ended, tx))) throw new WorkLost()
          if (!made.metadata || Object.keys(made.metadata).length === 0) return
          // Other artefacts of the same source write here too: one after the other, each what it found out.
          const [row] = await tx.select().from(media).where(eq(media.hash, source)).for('update')
          const next = merged(row!.metadata, metadata, made.metadata)
          await tx.update(media).set({ metadata: next }).where(eq(media.hash, source))
        })
        await describeAnew(context, source)
      } finally {
        await scratch.clear()
      }
      await announce(sql, { kind: 'media', hash: source })
    },
    final: (error) =>
      isUndecodable(error) ? 'It can’t be decoded to its end: it may be damaged. Convert it, or add it again.' : null,
    tell: (claim) => announce(sql, { kind: 'media', hash: claim.row.source }),
    async fail(claim, message) {
      await claim.write({ state: 'failed', message })
      await this.tell(claim)
    },
  })

  async function metadataOf(hash: string): Promise<SourceMetadata> {
    const [row] = await db.select().from(media).where(eq(media.hash, hash))
    if (!row) throw new WorkLost()
    return row.metadata
  }
}

/** The metadata as stored now with what one artefact found out since it was read. */
function merged(now: SourceMetadata, read: SourceMetadata, found: Partial<SourceMetadata>): SourceMetadata {
  const next = { ...now, ...found }
  if (found.sounds)
    next.sounds = now.sounds.map((entry, i) => (found.sounds![i] === read.sounds[i] ? entry : found.sounds![i]!))
  if (now.kind === 'sound') next.length = Math.max(...next.sounds.map((entry) => entry.samples * 14_700), 1)
  return next
}

/** Tells the documents that use a file what is known of it now. */
async function describeAnew({ connection, log }: Context, hash: string): Promise<void> {
  const { db } = connection
  const [row] = await db.select().from(media).where(eq(media.hash, hash))
  const users = await db
    .select()
    .from(assets)
    .where(and(eq(assets.hash, hash), eq(assets.state, 'ready')))
  for (const asset of users) {
    try {
      const { project } = await log.read(asset.projectId)
      const known = project.assets[asset.id]
      if (known) await addToDocument({ log }, asset, assetFacts(asset.id, known.name, row!.metadata), { again: true })
    } catch (error) {
      if (!(error instanceof ProjectMissing)) throw error
    }
  }
}

/** Removes what an artefact that is no longer wanted left on the disk. */
export async function removeArtefact({ connection, storage }: Context, key: string): Promise<void> {
  await connection.db.delete(artefacts).where(eq(artefacts.key, key))
  await storage.remove(storage.artefactFolder(key))
}
