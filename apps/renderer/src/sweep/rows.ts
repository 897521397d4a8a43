import { and, eq, inArray, isNotNull, lt, ne, or, sql } from 'drizzle-orm'
import {
  artefacts,
  assets,
  glanceArtefacts,
  madeArtefacts,
  media,
  previewArtefacts,
  ProjectMissing,
  projects,
  renders,
  RUNNABLE,
  withFile,
  type Database,
  type ProjectLog,
} from '@dusk/store'
import { openDocument } from '@dusk/timeline'

/** Ids of projects whose deletion can no longer be taken back, removed with their edits, sources and renders. */
export async function purgeProjects(db: Database, deletedBefore: Date): Promise<string[]> {
  const rows = await db
    .delete(projects)
    .where(and(isNotNull(projects.deletedAt), lt(projects.deletedAt, deletedBefore)))
    .returning({ id: projects.id })
  return rows.map((row) => row.id)
}

/** Removes one project that was put away, for good. @returns hashes of the files that its sources were made of */
export async function purgeProject(db: Database, id: string): Promise<string[]> {
  return db.transaction(async (tx) => {
    const used = await tx.select({ hash: assets.hash }).from(assets).where(eq(assets.projectId, id))
    const gone = await tx
      .delete(projects)
      .where(and(eq(projects.id, id), isNotNull(projects.deletedAt)))
      .returning({ id: projects.id })
    return gone.length === 0 ? [] : [...new Set(used.flatMap(({ hash }) => hash ?? []))]
  })
}

/**
 * Removes sources that nothing names any more: neither the document, nor an edit that could be taken back, nor a
 * render that waits.
 */
export async function sweepAssets(db: Database, before: Date): Promise<number> {
  const rows = await db
    .delete(assets)
    .where(
      and(
        lt(assets.createdAt, before),
        or(
          and(eq(assets.state, 'failed'), eq(assets.dismissed, true)),
          and(
            eq(assets.state, 'ready'),
            sql`not exists (select 1 from living l where l.project_id = ${assets.projectId}
              and l.body like '%' || ${assets.id}::text || '%')`,
          ),
        ),
      ),
    )
    .returning({ id: assets.id })
  return rows.length
}

/** Which stored files no source is made of, nor is just being taken in. */
function unusedMedia(before: Date, only?: readonly string[]) {
  return and(
    lt(media.createdAt, before),
    only && inArray(media.hash, [...only]),
    sql`not exists (select 1 from assets a where a.hash = ${media.hash})`,
    // One that is just being taken in names the file by its place, not yet by its hash.
    sql`not exists (select 1 from assets a where a.state in ('waiting', 'working') and a.hash is null
      and a.upload_path like '%' || ${media.hash})`,
  )
}

/**
 * Removes stored files that no source is made of, with what was worked out from them: each while nobody takes it in.
 * @param only none but these
 * @param remove removes the file itself, while its row can't come back
 * @returns the files, and keys of what was worked out from them
 */
export async function sweepMedia(
  db: Database,
  before: Date,
  only: readonly string[] | undefined,
  remove: (hash: string) => Promise<void>,
): Promise<{ files: { hash: string; size: number }[]; keys: string[] }> {
  if (only?.length === 0) return { files: [], keys: [] }
  const files: { hash: string; size: number }[] = []
  const keys: string[] = []
  for (const { hash } of await db.select({ hash: media.hash }).from(media).where(unusedMedia(before, only)))
    await withFile(db, hash, async (tx) => {
      const made = await tx.select({ key: artefacts.key }).from(artefacts).where(eq(artefacts.source, hash))
      // It may have been taken in since it was found.
      const [gone] = await tx
        .delete(media)
        .where(unusedMedia(before, [hash]))
        .returning({ hash: media.hash, size: media.size })
      if (!gone) return
      await remove(hash)
      files.push(gone)
      keys.push(...made.map(({ key }) => key))
    })
  return { files, keys }
}

/** Artefacts of made frames that documents and waiting renders name, among those of some stored files. */
async function madeKeys(db: Database, log: ProjectLog, hashes: readonly string[]): Promise<Set<string>> {
  const keys = new Set<string>()
  if (hashes.length === 0) return keys
  const used = await db
    .select({ id: assets.id, hash: assets.hash, projectId: assets.projectId })
    .from(assets)
    .where(inArray(assets.hash, [...new Set(hashes)]))
  const hashOf = new Map(used.map(({ id, hash }) => [id, hash!]))
  for (const projectId of new Set(used.map((row) => row.projectId))) {
    const project = await log.read(projectId).then(
      (found) => found.project,
      (error) => {
        // A deleted project's frames can be made again, should it come back.
        if (error instanceof ProjectMissing) return null
        throw error
      },
    )
    const waiting = await db
      .select({ document: renders.document })
      .from(renders)
      .where(and(eq(renders.projectId, projectId), inArray(renders.state, [...RUNNABLE])))
    for (const document of [...(project ? [project] : []), ...waiting.map((row) => openDocument(row.document))])
      for (const { artefact } of madeArtefacts(document, (id) => hashOf.get(id))) keys.add(artefact.key)
  }
  return keys
}

/**
 * Removes artefacts that an older version of the program made and this one makes otherwise, and frames made for clips
 * that no document has any more. Returns their keys.
 * @param before frames that were made after this stay: their clip may just have been taken back
 */
export async function sweepArtefacts(db: Database, log: ProjectLog, before: Date): Promise<string[]> {
  const rows = await db
    .select({ key: artefacts.key, kind: artefacts.kind, at: artefacts.heartbeatAt, source: media })
    .from(artefacts)
    .innerJoin(media, eq(media.hash, artefacts.source))
    .where(ne(artefacts.state, 'working'))
  const named = await madeKeys(
    db,
    log,
    rows.filter(({ kind }) => kind === 'between').map(({ source }) => source.hash),
  )
  const old = rows
    .filter(({ key, kind, at, source: { hash, metadata } }) =>
      kind === 'between'
        ? (at === null || at < before) && !named.has(key)
        : ![...glanceArtefacts(hash, metadata), ...previewArtefacts(hash, metadata)].some((one) => one.key === key),
    )
    .map(({ key }) => key)
  if (old.length > 0) await db.delete(artefacts).where(inArray(artefacts.key, old))
  return old
}
