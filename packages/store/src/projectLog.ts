import { and, asc, desc, eq, gt, inArray, isNull, lt, lte, sql as raw } from 'drizzle-orm'
import {
  applyCommand,
  applyPatches,
  CommandRefused,
  commandSchema,
  describeCommand,
  Edit,
  invertPatches,
  patchesOf,
  salvageDocument,
  sameData,
  SCHEMA_VERSION,
  type LeftOut,
  type LoggedEdit,
  type Patch,
  type Project,
  type RestoreCommand,
  type SentCommand,
} from '@dusk/timeline'
import type { Connection } from './database'
import { migrateLog, patchesIn, replay } from './migrateLog'
import { projectEdits, projects } from './schema'
import { summary } from './summary'
import type { Executor } from './work'

/** What became of a command that was sent; `nothing` changed nothing, and is not in the log. */
export type Outcome =
  { id: string; seq: number } | { id: string; nothing: true } | { id: string; refused: string; rule: string }

/** An edit as the history shows it. */
export interface HistoryEntry {
  seq: number
  label: string
  at: Date
  windowId: string
}

/** A project that is not there, or was deleted. */
export class ProjectMissing extends Error {
  constructor(id: string) {
    super(`There is no project ${id}.`)
    this.name = 'ProjectMissing'
  }
}

/** A document with its place in the log. */
export interface OpenProject {
  project: Project
  seq: number
  /** What had to be left out since it was damaged. */
  leftOut: readonly LeftOut[]
}

/** A snapshot is written after this many edits; also the most that opening a project has to replay. */
const SNAPSHOT_EVERY = 100
/** Documents kept in memory. */
const KEPT = 16
/** Edits whose patches are read at a time. */
const PAGE = 500

/** Seed of an edit that makes no new entities. */
const NO_SEED = '00000000-0000-4000-8000-000000000000'

/**
 * The edit log. Commands are carried out by the same code as in a window, in one transaction with their log entry:
 * what was acknowledged is on disk. The log keeps what came of them, as patches: a later version of the program may do
 * a command otherwise, and what was kept has to stay as it was. Documents are kept in memory and checked against the
 * log's number every time, so several processes may write.
 */
export class ProjectLog {
  private readonly open = new Map<string, OpenProject>()

  constructor(private readonly connection: Connection) {}

  /** Stores a new project. */
  async create(project: Project, db: Pick<Executor, 'insert'> = this.connection.db): Promise<void> {
    await db
      .insert(projects)
      .values({ id: project.id, name: project.name, document: project, documentSeq: 0, seq: 0, ...summary(project) })
  }

  /** A project as the log has it now. @throws {ProjectMissing} */
  async read(id: string): Promise<OpenProject> {
    const [row] = await this.connection.db
      .select({ seq: projects.seq })
      .from(projects)
      .where(and(eq(projects.id, id), isNull(projects.deletedAt)))
    if (!row) throw new ProjectMissing(id)
    return this.upTo(this.connection.db, id, row.seq)
  }

  /** Log entries after `seq`, oldest first. */
  async since(id: string, seq: number, most = 1000): Promise<LoggedEdit[]> {
    const rows = await this.connection.db
      .select({
        id: projectEdits.id,
        seq: projectEdits.seq,
        command: projectEdits.command,
        patches: projectEdits.patches,
      })
      .from(projectEdits)
      .where(and(eq(projectEdits.projectId, id), gt(projectEdits.seq, seq), eq(projectEdits.version, SCHEMA_VERSION)))
      .orderBy(asc(projectEdits.seq))
      .limit(most)
    return rows.map((row) => ({ id: row.id, seq: row.seq, patches: patchesIn(row) }))
  }

  /** What came of one edit, for it to be taken back; `null` when it is not in the log any more. */
  async patches(id: string, editId: string): Promise<{ label: string; patches: readonly Patch[] } | null> {
    await this.read(id)
    const [row] = await this.connection.db
      .select({ label: projectEdits.label, command: projectEdits.command, patches: projectEdits.patches })
      .from(projectEdits)
      .where(and(eq(projectEdits.projectId, id), eq(projectEdits.id, editId), eq(projectEdits.version, SCHEMA_VERSION)))
    return row ? { label: row.label, patches: patchesIn(row) } : null
  }

  /**
   * Carries out commands in their order. One that was logged before (sent twice after a lost answer) is only reported;
   * one that no longer applies is refused alone. Nobody else writes to the project meanwhile.
   * @throws {ProjectMissing}
   */
  async append(
    id: string,
    windowId: string,
    sent: readonly SentCommand[],
  ): Promise<{ seq: number; outcomes: Outcome[] }> {
    const result = await this.connection.db.transaction(async (tx) => {
      const [row] = await tx
        .select({ seq: projects.seq, documentSeq: projects.documentSeq })
        .from(projects)
        .where(and(eq(projects.id, id), isNull(projects.deletedAt)))
        .for('update')
      if (!row) throw new ProjectMissing(id)
      const { leftOut, ...open } = await this.upTo(tx, id, row.seq)
      let { project } = open
      let seq = row.seq
      const sentIds = sent.map((entry) => entry.id)
      const known = await tx
        .select({ id: projectEdits.id, seq: projectEdits.seq })
        .from(projectEdits)
        .where(and(eq(projectEdits.projectId, id), inArray(projectEdits.id, sentIds)))
      const outcomes: Outcome[] = []
      const rows: (typeof projectEdits.$inferInsert)[] = []
      for (const { id: commandId, command: given } of sent) {
        const before = known.find((entry) => entry.id === commandId)
        if (before) {
          outcomes.push(before)
          continue
        }
        const held = commandSchema.safeParse(given)
        if (!held.success) {
          const issue = held.error.issues[0]!
          outcomes.push({ id: commandId, refused: `${issue.path.join('.')}: ${issue.message}`, rule: 'shape' })
          continue
        }
        const command = held.data
        let patches: Patch[]
        try {
          ;({ project, patches } = applyCommand(project, command, commandId))
        } catch (error) {
          if (!(error instanceof CommandRefused)) throw error
          outcomes.push({ id: commandId, refused: error.message, rule: error.rule })
          continue
        }
        if (patches.length === 0) {
          outcomes.push({ id: commandId, nothing: true })
          continue
        }
        seq++
        const said = command.type === 'restore' && sameData(command.patches, patches)
        rows.push({
          ...{ projectId: id, seq, id: commandId, command, windowId, label: describeCommand(command) },
          patches: said ? null : patches,
          version: SCHEMA_VERSION,
        })
        outcomes.push({ id: commandId, seq })
      }
      if (rows.length > 0) {
        await tx.insert(projectEdits).values(rows)
        const snapshot = seq - row.documentSeq >= SNAPSHOT_EVERY ? { document: project, documentSeq: seq } : {}
        await tx
          .update(projects)
          .set({ seq, name: project.name, editedAt: new Date(), ...summary(project), ...snapshot })
          .where(eq(projects.id, id))
        await tx.execute(raw`select pg_notify('dusk', ${JSON.stringify({ kind: 'edit', projectId: id, seq })})`)
      }
      return { seq, outcomes, project, leftOut }
    })
    this.keep(id, { project: result.project, seq: result.seq, leftOut: result.leftOut })
    return { seq: result.seq, outcomes: result.outcomes }
  }

  /** Readable log entries before `before` (a number; without it the newest), newest first. */
  async history(id: string, before: number | null, most = 100): Promise<HistoryEntry[]> {
    const older = before === null ? [] : [lt(projectEdits.seq, before)]
    return this.connection.db
      .select({
        seq: projectEdits.seq,
        label: projectEdits.label,
        at: projectEdits.at,
        windowId: projectEdits.windowId,
      })
      .from(projectEdits)
      .where(and(eq(projectEdits.projectId, id), ...older))
      .orderBy(desc(projectEdits.seq))
      .limit(most)
  }

  /**
   * The command that brings a project back to how it was after edit `seq` (0: as it was made), from how it is now.
   * @throws {ProjectMissing}
   */
  async revert(id: string, seq: number): Promise<RestoreCommand> {
    const { project, seq: last } = await this.read(id)
    const edit = new Edit(project, NO_SEED)
    let label = 'the beginning'
    // Page by page from the newest: a long history is not held in memory as a whole.
    for (let to = last; to > seq; to -= PAGE) {
      const rows = await this.connection.db
        .select({ command: projectEdits.command, patches: projectEdits.patches })
        .from(projectEdits)
        .where(
          and(
            eq(projectEdits.projectId, id),
            lte(projectEdits.seq, to),
            gt(projectEdits.seq, Math.max(seq, to - PAGE)),
          ),
        )
        .orderBy(desc(projectEdits.seq))
      for (const row of rows) applyPatches(edit, invertPatches(patchesIn(row)))
    }
    const [at] = await this.connection.db
      .select({ label: projectEdits.label })
      .from(projectEdits)
      .where(and(eq(projectEdits.projectId, id), eq(projectEdits.seq, seq)))
    label = at?.label ?? label
    return {
      type: 'restore',
      label: `Went back to: ${label}`.slice(0, 300),
      patches: patchesOf(edit.changes(), { from: project.name, to: edit.name }),
    }
  }

  /** Forgets a document, after its project was deleted or replaced. */
  forget(id: string): void {
    this.open.delete(id)
  }

  private async upTo(db: Executor, id: string, seq: number): Promise<OpenProject> {
    let base: OpenProject | undefined = this.open.get(id)
    if (!base || base.seq > seq) base = await this.load(db, id)
    if (base.seq < seq) {
      const rows = await db
        .select({ command: projectEdits.command, patches: projectEdits.patches })
        .from(projectEdits)
        .where(and(eq(projectEdits.projectId, id), gt(projectEdits.seq, base.seq), lte(projectEdits.seq, seq)))
        .orderBy(asc(projectEdits.seq))
      const edit = new Edit(base.project, NO_SEED)
      for (const row of rows) applyPatches(edit, patchesIn(row))
      base = { ...base, project: edit.finish(), seq }
    }
    this.keep(id, base)
    return base
  }

  /** A document from its snapshot; one of an older version is brought up together with its log and kept so. */
  private async load(db: Executor, id: string): Promise<OpenProject> {
    const [row] = await db
      .select({ document: projects.document, documentSeq: projects.documentSeq })
      .from(projects)
      .where(eq(projects.id, id))
    if (!row) throw new ProjectMissing(id)
    const stored = row.document as { schemaVersion?: number }
    if (Number(stored.schemaVersion) < SCHEMA_VERSION) {
      return await this.migrate(db, id, row.document, row.documentSeq)
    }
    const { project, leftOut } = salvageDocument(row.document)
    return { project, seq: row.documentSeq, leftOut }
  }

  private async migrate(db: Executor, id: string, snapshot: unknown, documentSeq: number): Promise<OpenProject> {
    const rows = await db
      .select({
        seq: projectEdits.seq,
        version: projectEdits.version,
        command: projectEdits.command,
        patches: projectEdits.patches,
        undo: projectEdits.undo,
        nameBefore: projectEdits.nameBefore,
      })
      .from(projectEdits)
      .where(and(eq(projectEdits.projectId, id), lt(projectEdits.version, SCHEMA_VERSION)))
      .orderBy(desc(projectEdits.seq))
    const [project] = await db.select({ name: projects.name }).from(projects).where(eq(projects.id, id))
    // What the log holds beyond the snapshot, in the old version: the walk back begins at the newest state.
    const later = rows.filter((row) => row.seq > documentSeq).reverse()
    const newest = { ...replay(snapshot, later), name: project!.name }
    const patches = migrateLog(newest, rows)
    for (const [seq, list] of patches)
      await db
        .update(projectEdits)
        .set({ patches: list, version: SCHEMA_VERSION, undo: null, nameBefore: null })
        .where(and(eq(projectEdits.projectId, id), eq(projectEdits.seq, seq)))
    const last = Math.max(documentSeq, ...rows.map((row) => row.seq))
    const { project: document, leftOut } = salvageDocument(newest)
    await db.update(projects).set({ document, documentSeq: last }).where(eq(projects.id, id))
    return { project: document, seq: last, leftOut }
  }

  private keep(id: string, open: OpenProject): void {
    this.open.delete(id)
    this.open.set(id, open)
    if (this.open.size > KEPT) this.open.delete(this.open.keys().next().value!)
  }
}
