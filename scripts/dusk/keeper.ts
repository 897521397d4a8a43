import type { ChildProcess } from 'node:child_process'
import { end } from './processes'

/** Seconds between a process's end and its next start: more each time, until it has lived for a while. */
export const PAUSES = [1, 2, 4, 8, 15, 30]
/** Milliseconds after which a process counts as well again. */
const WELL_MS = 60_000

/** What became of a process that is kept. */
export interface KeptState {
  pid: number | null
  /** Times that it was brought up again. */
  restarts: number
}

/**
 * Keeps a process up: when it ends by itself it is started again after a pause that grows as long as it does not stay.
 * Each end is said in words.
 */
export class Keeper {
  private child: ChildProcess | null = null
  private timer: ReturnType<typeof setTimeout> | null = null
  private stopped = false
  private inARow = 0
  private restarts = 0
  private began = 0

  /**
   * @param name what it is called in words, such as `The studio`
   * @param start begins it
   * @param say takes a line for the person
   * @param changed is told whenever it began or ended
   */
  constructor(
    private readonly name: string,
    private readonly start: () => ChildProcess,
    private readonly say: (line: string) => void = console.error,
    private readonly changed: () => void = () => {},
    private readonly pauses: readonly number[] = PAUSES,
  ) {}

  /** Starts it. @returns the process, as it is now */
  begin(): ChildProcess {
    const child = this.start()
    this.child = child
    this.began = Date.now()
    child.once('exit', (code, signal) => this.ended(child, code, signal))
    child.once('error', () => this.ended(child, null, null))
    this.changed()
    return child
  }

  get state(): KeptState {
    return { pid: this.child?.pid ?? null, restarts: this.restarts }
  }

  /** Ends it and begins it anew, as when what it works with has moved; nothing where it was not begun. */
  async renew(): Promise<void> {
    if (this.began === 0) return
    const { child } = this
    this.child = null
    await end(child)
    if (!this.stopped) this.begin()
  }

  /** Ends it for good. */
  async stop(): Promise<void> {
    this.stopped = true
    if (this.timer) clearTimeout(this.timer)
    await end(this.child)
  }

  private ended(child: ChildProcess, code: number | null, signal: string | null): void {
    if (child !== this.child) return
    this.child = null
    this.changed()
    if (this.stopped) return
    if (Date.now() - this.began > WELL_MS) this.inARow = 0
    const pause = this.pauses[Math.min(this.inARow, this.pauses.length - 1)]!
    this.inARow++
    const why = signal ? ` (${signal})` : code ? ` (code ${code})` : ''
    this.say(`${this.name} stopped by itself${why}; it is started again in ${pause} s. Nothing that was kept is lost.`)
    this.timer = setTimeout(() => {
      this.restarts++
      this.begin()
    }, pause * 1000)
  }
}
