import { and, asc, desc, eq, gt, gte, inArray, isNull, lt, lte, sql as raw } from 'drizzle-orm'
import {
  applyCommand,
  clipsByTrack,
  CommandRefused,
  commandSchema,
  describeCommand,
  openDocument,
  sameData,
  reelLength,
  reelsOf,
  tracksOf,
  type LoggedCommand,
  undoOf,
  type Change,
  type Command,
  type EntityKind,
  type Project,
  type RestoreCommand,
  type SentCommand,
} from '@dusk/timeline'
import type { Connection } from './database'
import { projectEdits, projects } from './schema'

/** What became of a command that was sent. */
export type Outcome = { id: string; seq: number } | { id: string; refused: string; rule: string }

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

interface Open {
  project: Project
  seq: number
}

/** A snapshot is written after this many edits; also the most that opening a project has to replay. */
const SNAPSHOT_EVERY = 100
/** Documents kept in memory. */
const KEPT = 16

/**
 * The edit log. Commands are carried out by the same code as in a window, in one transaction with their log entry:
 * what was acknowledged is on disk. Documents are kept in memory and checked against the log's number every time, so
 * several processes may write.
 */
export class ProjectLog {
  private readonly open = new Map<string, Open>()

  constructor(private readonly connection: Connection) {}

  /** Stores a new project. */
  async create(project: Project, db: Pick<Connection['db'], 'insert'> = this.connection.db): Promise<void> {
    await db
      .insert(projects)
      .values({ id: project.id, name: project.name, document: project, documentSeq: 0, seq: 0, ...summary(project) })
  }

  /** A project as the log has it now. @throws {ProjectMissing} */
  async read(id: string): Promise<Open> {
    const [row] = await this.connection.db
      .select({ seq: projects.seq })
      .from(projects)
      .where(and(eq(projects.id, id), isNull(projects.deletedAt)))
    if (!row) throw new ProjectMissing(id)
    return this.upTo(this.connection.db, id, row.seq)
  }

  /** Log entries after `seq`, oldest first. */
  async since(id: string, seq: number, most = 1000): Promise<LoggedCommand[]> {
    return this.connection.db
      .select({ seq: projectEdits.seq, id: projectEdits.id, command: projectEdits.command })
      .from(projectEdits)
      .where(and(eq(projectEdits.projectId, id), gt(projectEdits.seq, seq)))
      .orderBy(asc(projectEdits.seq))
      .limit(most)
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
      let { project } = await this.upTo(tx, id, row.seq)
      let seq = row.seq
      const known = await tx
        .select({ id: projectEdits.id, seq: projectEdits.seq })
        .from(projectEdits)
        .where(
          and(
            eq(projectEdits.projectId, id),
            inArray(
              projectEdits.id,
              sent.map((entry) => entry.id),
            ),
          ),
        )
      const outcomes: Outcome[] = []
      const rows: (typeof projectEdits.$inferInsert)[] = []
      for (const { id: commandId, command } of sent) {
        const before = known.find((entry) => entry.id === commandId)
        if (before) {
          outcomes.push(before)
          continue
        }
        const name = project.name
        let changes: Change[]
        try {
          ;({ project, changes } = applyCommand(project, command, commandId))
        } catch (error) {
          if (!(error instanceof CommandRefused)) throw error
          outcomes.push({ id: commandId, refused: error.message, rule: error.rule })
          continue
        }
        seq++
        const label = describeCommand(command)
        const undo = undoOf(changes, label).changes
        const nameBefore = name === project.name ? null : name
        rows.push({ projectId: id, seq, id: commandId, command, windowId, label, undo, nameBefore })
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
      return { seq, outcomes, project }
    })
    this.keep(id, { project: result.project, seq: result.seq })
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
  async wayBack(id: string, seq: number): Promise<RestoreCommand> {
    const { project } = await this.read(id)
    const edits = await this.connection.db
      .select({
        seq: projectEdits.seq,
        undo: projectEdits.undo,
        nameBefore: projectEdits.nameBefore,
        label: projectEdits.label,
      })
      .from(projectEdits)
      .where(and(eq(projectEdits.projectId, id), gte(projectEdits.seq, seq)))
      .orderBy(desc(projectEdits.seq))
    const before = new Map<string, RestoreCommand['changes'][number]>()
    let name = project.name
    let label = 'the beginning'
    for (const edit of edits) {
      if (edit.seq === seq) {
        label = edit.label
        break
      }
      name = edit.nameBefore ?? name
      // Oldest last: the state before the first of the edits taken back is what counts.
      for (const change of edit.undo) before.set(change.id, change)
    }
    const changes = [...before.values()].flatMap(({ kind, id: entityId, to }) => {
      const from = project[kind][entityId] ?? null
      return sameData(from, to) ? [] : [{ kind, id: entityId, from, to } as RestoreCommand['changes'][number]]
    })
    return {
      type: 'restore',
      label: `Went back to: ${label}`.slice(0, 300),
      ...(name === project.name ? {} : { name: { from: project.name, to: name } }),
      changes,
    }
  }

  /** Forgets a document, after its project was deleted or replaced. */
  forget(id: string): void {
    this.open.delete(id)
  }

  private async upTo(db: Pick<Connection['db'], 'select' | 'update'>, id: string, seq: number): Promise<Open> {
    let base: Open | undefined = this.open.get(id)
    let stored: Record<string, unknown> | null = null
    if (!base || base.seq > seq) {
      const [row] = await db
        .select({ document: projects.document, documentSeq: projects.documentSeq })
        .from(projects)
        .where(eq(projects.id, id))
      if (!row) throw new ProjectMissing(id)
      stored = row.document as unknown as Record<string, unknown>
      base = { project: row.document, seq: row.documentSeq }
    }
    if (base.seq < seq) {
      const entries = await db
        .select({
          id: projectEdits.id,
          seq: projectEdits.seq,
          command: projectEdits.command,
          undo: projectEdits.undo,
          nameBefore: projectEdits.nameBefore,
        })
        .from(projectEdits)
        .where(and(eq(projectEdits.projectId, id), gt(projectEdits.seq, base.seq), lte(projectEdits.seq, seq)))
        .orderBy(asc(projectEdits.seq))
      const [row] = await db.select({ name: projects.name }).from(projects).where(eq(projects.id, id))
      base = { project: { ...replay(base.project, entries), name: row?.name ?? base.project.name }, seq }
    }
    if (stored) {
      base = { project: openDocument(base.project), seq: base.seq }
      // Brought up to this version together with its edits, which are of the old one: from here on all are of this.
      if (stored.schemaVersion !== base.project.schemaVersion)
        await db.update(projects).set({ document: base.project, documentSeq: base.seq }).where(eq(projects.id, id))
    }
    this.keep(id, base)
    return base
  }

  private keep(id: string, open: Open): void {
    this.open.delete(id)
    this.open.set(id, open)
    if (this.open.size > KEPT) this.open.delete(this.open.keys().next().value!)
  }
}

interface LoggedResult {
  id: string
  command: Command
  undo: RestoreCommand['changes']
  nameBefore: string | null
}

/**
 * A document with what came of logged edits. They are not carried out anew: a later version of the program may do a
 * command otherwise than the one that logged it, and what was kept has to stay as it was.
 */
function replay(document: Project, entries: readonly LoggedResult[]): Project {
  let project = document
  for (const { id, command, undo, nameBefore } of entries) {
    if (undo.length === 0 && nameBefore === null) {
      // Logged before results were: there is only the command.
      project = applyCommand(project, commandSchema.parse(command), id).project
      continue
    }
    const maps: Partial<Record<EntityKind, Record<string, unknown>>> = {}
    for (const { kind, id: entityId, from } of undo) {
      const map = (maps[kind] ??= { ...project[kind] })
      if (from === null) delete map[entityId]
      else map[entityId] = from
    }
    project = { ...project, ...maps } as Project
  }
  return project
}

/** What a project's card shows: its length and the first picture in its first reel. */
function summary(project: Project): { length: number; posterAsset: string | null } {
  const reel = reelsOf(project)[0]
  if (!reel) return { length: 0, posterAsset: null }
  const lanes = clipsByTrack(project)
  let posterAsset: string | null = null
  for (const track of tracksOf(project, reel.id)) {
    if (track.kind !== 'picture') continue
    const first = lanes.get(track.id)?.find((clip) => clip.kind === 'media')
    if (first?.kind === 'media') {
      posterAsset = first.assetId
      break
    }
  }
  posterAsset ??= Object.values(project.assets).find((asset) => asset.picture)?.id ?? null
  return { length: reelLength(project, reel.id), posterAsset }
}
