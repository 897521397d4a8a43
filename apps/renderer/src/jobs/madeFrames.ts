import { stat } from 'node:fs/promises'
import { join } from 'node:path'
import { and, eq, inArray } from 'drizzle-orm'
import { ARTEFACT_FILES, artefacts, madeArtefacts, wantArtefacts, type Connection, type Queue } from '@dusk/store'
import { MADE_SEGMENT, madeName, sourceMetadataSchema, type MadeSegment, type Project } from '@dusk/timeline'
import { examine, makeBetween, type Storage } from '@dusk/media'
import { z } from 'zod'
import { RenderFailed } from '../render/request'
import type { MadeFile, SourceBook } from '../render/sources'

/** How often it is looked whether frames are there, in milliseconds. */
const LOOK_MS = 1000

const factsSchema = z.looseObject({ metadata: sourceMetadataSchema })

/**
 * Waits until every frame that a project's clips want made is there, and notes their files in the book. What nobody
 * asked for yet is asked for.
 * @param progress told what part of them is there while it waits
 * @throws {RenderFailed} when some can't be made
 */
export async function awaitMadeFrames(
  { connection, queue, storage }: { connection: Connection; queue: Queue; storage: Storage },
  project: Project,
  book: SourceBook,
  options: { signal?: AbortSignal; progress?: (part: number) => void } = {},
): Promise<void> {
  const { db } = connection
  const wanted = madeArtefacts(project, (assetId) => book.get(assetId)?.hash)
  if (wanted.length === 0) return
  const keys = [...new Set(wanted.map(({ artefact }) => artefact.key))]
  await db.transaction((tx) =>
    wantArtefacts(
      tx,
      queue,
      wanted.map(({ artefact }) => artefact),
      { again: true },
    ),
  )
  for (;;) {
    options.signal?.throwIfAborted()
    const rows = await db.select().from(artefacts).where(inArray(artefacts.key, keys))
    const failed = rows.find(({ state }) => state === 'failed')
    if (failed)
      throw new RenderFailed(
        `Frames between those of a slowed clip could not be made: ${failed.message ?? 'no reason was given'} ` +
          'Choose “Blend frames” for it, or try again.',
      )
    const ready = new Map(rows.filter(({ state }) => state === 'ready').map((row) => [row.key, row]))
    if (ready.size === keys.length) {
      for (const { artefact, ...segment } of wanted) {
        const path = storage.artefact(artefact.key, ARTEFACT_FILES.between.video)
        await storage.fetch(path)
        const { metadata } = factsSchema.parse(ready.get(artefact.key)!.facts)
        note(book, segment, { path, key: artefact.key, metadata })
      }
      return
    }
    options.progress?.(rows.reduce((sum, row) => sum + (row.state === 'ready' ? 1 : row.progress), 0) / keys.length)
    await new Promise((resolve) => setTimeout(resolve, LOOK_MS))
  }
}

/** Whether every frame that a project's clips want made is there. */
export async function madeFramesThere(
  { db }: Pick<Connection, 'db'>,
  project: Project,
  book: SourceBook,
): Promise<boolean> {
  const wanted = madeArtefacts(project, (assetId) => book.get(assetId)?.hash)
  const keys = [...new Set(wanted.map(({ artefact }) => artefact.key))]
  if (keys.length === 0) return true
  const ready = and(inArray(artefacts.key, keys), eq(artefacts.state, 'ready'))
  return (await db.$count(artefacts, ready)) === keys.length
}

function note(book: SourceBook, segment: MadeSegment, file: MadeFile): void {
  const entry = book.get(segment.assetId)!
  book.set(segment.assetId, { ...entry, made: new Map(entry.made ?? []).set(madeName(segment), file) })
}

/**
 * Makes frames between those of slowed clips here and now, without a queue: as from the command line. Those that are
 * stored already are used.
 * @param folder where new ones go
 */
export async function makeMadeFrames(
  project: Project,
  book: SourceBook,
  storage: Storage,
  folder: string,
  options: { signal?: AbortSignal; progress?: (part: number) => void } = {},
): Promise<void> {
  const wanted = madeArtefacts(project, (assetId) => book.get(assetId)?.hash)
  for (const [i, { artefact, ...segment }] of wanted.entries()) {
    const { hash, metadata } = book.get(segment.assetId)!
    let path = storage.artefact(artefact.key, ARTEFACT_FILES.between.video)
    if (!(await storage.fetch(path))) {
      path = join(folder, `${artefact.key}.mp4`)
      const stretch = { first: segment.segment * MADE_SEGMENT, count: MADE_SEGMENT, factor: segment.factor }
      await makeBetween(
        storage.original(hash),
        metadata,
        stretch,
        { video: path, proxy: `${path}.proxy.mp4` },
        {
          signal: options.signal,
          progress: (part) => options.progress?.((i + part) / wanted.length),
        },
      )
    }
    note(book, segment, { path, key: artefact.key, metadata: await examine(path, (await stat(path)).size) })
  }
}
