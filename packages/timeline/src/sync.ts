import { applyCommand, CommandRefused, type Applied, type Command } from './commands/index'
import type { Project } from './document/project'

/** A command on its way: its id names it everywhere and seeds the ids it makes. */
export interface SentCommand {
  id: string
  command: Command
}

/** A command as the log holds it. */
export interface LoggedCommand extends SentCommand {
  seq: number
}

/** A command of this window that no longer applied, and why. */
export interface Rejection {
  id: string
  command: Command
  reason: string
}

/**
 * A window's copy of a document that the server keeps. Own commands show at once; the log's order decides. When
 * someone else's command comes in between, own pending ones are carried out again on top of it, and those that no
 * longer apply are dropped with their reason.
 */
export class SyncedDocument {
  private base: Project
  private seqNumber: number
  private waiting: SentCommand[] = []
  private shown: Project

  constructor(project: Project, seq: number) {
    this.base = project
    this.shown = project
    this.seqNumber = seq
  }

  /** The document as this window shows it: what the log holds plus what is pending. */
  get project(): Project {
    return this.shown
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
    const applied = applyCommand(this.shown, sent.command, sent.id)
    this.waiting.push(sent)
    this.shown = applied.project
    return applied
  }

  /**
   * Takes in log entries, own or foreign. Entries already known are passed over; an own one among them, which came in
   * with a whole document, is no longer pending.
   * @returns own commands that no longer apply, or `null` when an entry before these is missing: load anew
   */
  receive(entries: readonly LoggedCommand[]): Rejection[] | null {
    let foreign = false
    for (const entry of [...entries].sort((a, b) => a.seq - b.seq)) {
      if (entry.seq <= this.seqNumber) {
        foreign ||= this.waiting.some((own) => own.id === entry.id)
        this.waiting = this.waiting.filter((own) => own.id !== entry.id)
        continue
      }
      if (entry.seq !== this.seqNumber + 1) return null
      this.base = applyCommand(this.base, entry.command, entry.id).project
      this.seqNumber = entry.seq
      if (this.waiting[0]?.id === entry.id) this.waiting.shift()
      else {
        this.waiting = this.waiting.filter((own) => own.id !== entry.id)
        foreign = true
      }
    }
    if (this.waiting.length === 0) {
      this.shown = this.base
      return []
    }
    return foreign ? this.rebase() : []
  }

  /** Drops an own command that the server refused and shows the document without it. */
  drop(id: string): Rejection[] {
    this.waiting = this.waiting.filter((own) => own.id !== id)
    return this.rebase()
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
    this.waiting = this.waiting.filter(({ id, command }) => {
      try {
        project = applyCommand(project, command, id).project
        return true
      } catch (error) {
        if (!(error instanceof CommandRefused)) throw error
        rejected.push({ id, command, reason: error.message })
        return false
      }
    })
    this.shown = project
    return rejected
  }
}
