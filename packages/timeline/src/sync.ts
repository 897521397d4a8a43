import { applyCommand, CommandRefused, type Applied, type Command } from './commands/index'
import type { Project } from './document/project'
import { Edit } from './edit/edit'
import { applyPatches } from './patches/apply'
import type { Patch } from './patches/patch'

/** A command on its way: its id names it everywhere and seeds the ids it makes. */
export interface SentCommand {
  id: string
  command: Command
}

/** An edit as the log holds it: its number and what came of it. */
export interface LoggedEdit {
  id: string
  seq: number
  patches: readonly Patch[]
}

/** A command of this window that no longer applied, and why. */
export interface Rejection {
  id: string
  command: Command
  reason: string
}

/** The log says something that does not go together with the document: it has to be loaded anew. */
export class Diverged extends Error {
  constructor(readonly seq: number) {
    super(`Edit ${seq} does not go together with this window’s document.`)
    this.name = 'Diverged'
  }
}

interface Waiting extends SentCommand {
  /** The document after it, as long as nothing foreign came in before it. */
  after: Project
}

/**
 * A window's copy of a document that the server keeps. Own commands show at once; the log's order decides. When
 * someone else's edit comes in between, own pending ones are carried out again on top of it, and those that no longer
 * apply are dropped with their reason.
 */
export class SyncedDocument {
  private base: Project
  private seqNumber: number
  private waiting: Waiting[] = []

  constructor(project: Project, seq: number) {
    this.base = project
    this.seqNumber = seq
  }

  /** The document as this window shows it: what the log holds plus what is pending. */
  get project(): Project {
    return this.waiting.at(-1)?.after ?? this.base
  }

  /** Number of the last log entry that is in. */
  get seq(): number {
    return this.seqNumber
  }

  /** Own commands the server has not confirmed yet, oldest first. */
  get pending(): readonly SentCommand[] {
    return this.waiting
  }

  /**
   * Carries out an own command at once.
   * @throws {CommandRefused} when it does not apply; nothing changes then
   */
  perform(sent: SentCommand): Applied {
    const applied = applyCommand(this.project, sent.command, sent.id)
    this.waiting.push({ ...sent, after: applied.project })
    return applied
  }

  /**
   * The server has logged an own command under a number.
   * @returns `false` when entries before it are missing, or it is not the oldest pending one: fetch them
   */
  confirm(id: string, seq: number): boolean {
    if (seq <= this.seqNumber) {
      // Already in, with a whole document or as an entry.
      this.drop(id)
      return true
    }
    const [first] = this.waiting
    if (seq !== this.seqNumber + 1 || first?.id !== id) return false
    this.base = first.after
    this.seqNumber = seq
    this.waiting.shift()
    return true
  }

  /** An own command that changed nothing on the server: it is not in the log and no longer pending. */
  settle(id: string): Rejection[] {
    return this.drop(id)
  }

  /**
   * Takes in log entries, own or foreign. Entries already known are passed over.
   * @returns own commands that no longer apply, or `null` when an entry before these is missing
   * @throws {Diverged} when an entry can't be applied: load anew
   */
  receive(entries: readonly LoggedEdit[]): Rejection[] | null {
    let foreign = false
    for (const entry of [...entries].sort((a, b) => a.seq - b.seq)) {
      if (entry.seq <= this.seqNumber) {
        if (!this.waiting.some((own) => own.id === entry.id)) continue
        this.waiting = this.waiting.filter((own) => own.id !== entry.id)
        foreign = true
        continue
      }
      if (!foreign && this.confirm(entry.id, entry.seq)) continue
      if (entry.seq !== this.seqNumber + 1) return null
      this.base = this.withEntry(entry)
      this.seqNumber = entry.seq
      this.waiting = this.waiting.filter((own) => own.id !== entry.id)
      foreign = true
    }
    return foreign ? this.rebase() : []
  }

  private withEntry({ id, seq, patches }: LoggedEdit): Project {
    const edit = new Edit(this.base, id)
    try {
      applyPatches(edit, patches)
    } catch (error) {
      if (error instanceof CommandRefused) throw new Diverged(seq)
      throw error
    }
    return edit.finish()
  }

  /** Drops an own command that the server refused and shows the document without it. */
  drop(id: string): Rejection[] {
    const before = this.waiting.length
    this.waiting = this.waiting.filter((own) => own.id !== id)
    return before === this.waiting.length ? [] : this.rebase()
  }

  /** Starts over from the server's document, with what is still pending on top. */
  reload(project: Project, seq: number): Rejection[] {
    this.base = project
    this.seqNumber = seq
    return this.rebase()
  }

  private rebase(): Rejection[] {
    const rejected: Rejection[] = []
    let project = this.base
    const kept: Waiting[] = []
    for (const { id, command } of this.waiting) {
      try {
        project = applyCommand(project, command, id).project
        kept.push({ id, command, after: project })
      } catch (error) {
        if (!(error instanceof CommandRefused)) throw error
        rejected.push({ id, command, reason: error.message })
      }
    }
    this.waiting = kept
    return rejected
  }
}
