import { and, eq, lte, sql } from 'drizzle-orm'
import { ProjectMissing, projectEdits, projects, type Connection, type ProjectLog } from '@dusk/store'

/** A project's log is made shorter once it takes more than this, down to the second; the newest steps always stay. */
export interface LogLimits {
  bytes: number
  kept: number
  edits: number
}

/**
 * Makes long logs shorter: a snapshot of the document is written, and the oldest edits go. Steps that are gone can no
 * longer be gone back to; the document stays as it is.
 * @returns edits removed
 */
export async function compactLogs(
  { db, sql: client }: Connection,
  log: ProjectLog,
  limits: LogLimits,
): Promise<number> {
  const long = await db
    .select({ id: projectEdits.projectId })
    .from(projectEdits)
    .groupBy(projectEdits.projectId)
    .having(
      // What an undo changed is in its command: it has no patches of its own.
      sql`sum(coalesce(pg_column_size(${projectEdits.patches}), 0) + pg_column_size(${projectEdits.command}))
        > ${limits.bytes}`,
    )
  let removed = 0
  for (const { id } of long) {
    const rows = await db
      .select({
        seq: projectEdits.seq,
        bytes: sql<number>`coalesce(pg_column_size(${projectEdits.patches}), 0)
          + pg_column_size(${projectEdits.command})`,
      })
      .from(projectEdits)
      .where(eq(projectEdits.projectId, id))
      .orderBy(sql`${projectEdits.seq} desc`)
    let bytes = 0
    const cut = rows.findIndex((row, i) => (bytes += Number(row.bytes)) > limits.kept && i >= limits.edits)
    if (cut < 0) continue
    const last = rows[cut]!.seq
    const found = await log.read(id).catch((error: unknown) => {
      // One that was put away waits until it is brought back, or goes for good.
      if (error instanceof ProjectMissing) return null
      throw error
    })
    if (!found) continue
    const { project, seq } = found
    await db.transaction(async (tx) => {
      await tx
        .update(projects)
        .set({ document: project, documentSeq: seq })
        .where(and(eq(projects.id, id), lte(projects.documentSeq, seq)))
      await tx.delete(projectEdits).where(and(eq(projectEdits.projectId, id), lte(projectEdits.seq, last)))
    })
    removed += rows.length - cut
  }
  // The room is given back to the disk; nobody waits long for it, since what is left is small.
  if (removed > 0) await client.unsafe('vacuum (full, analyze) project_edits').catch(() => {})
  return removed
}
