import type { ChildProcess } from 'node:child_process'
import { mkdir, stat, utimes, writeFile } from 'node:fs/promises'
import { dirname } from 'node:path'

/** How often it is looked whether somebody waits, in milliseconds. */
const LOOK_MS = 100
/** For how long after it was said, in milliseconds, somebody is taken to wait. */
export const WAITING_MS = 1500
/** Longest that work stands still, and how long it then goes on at least, whoever waits. Milliseconds. */
const [MOST_MS, LEAST_MS] = [4000, 2000]
/** Writes of one process lie at least this far apart, in milliseconds. */
const SAY_MS = 200

/** Name of the file in a storage whose age tells whether somebody waits. */
export const WAITING_FILE = 'waiting'

let said = 0

/**
 * Says on this machine that somebody waits for a picture, such as one that is being sought.
 * @param path of the file whose age tells it
 */
export async function sayWaiting(path: string): Promise<void> {
  const now = Date.now()
  if (now - said < SAY_MS) return
  said = now
  const date = new Date(now)
  await utimes(path, date, date)
    .catch(() => mkdir(dirname(path), { recursive: true }).then(() => writeFile(path, '')))
    // Work goes on beside it then.
    .catch(() => {})
}

/** Programs that nobody waits for, which stand still for as long as somebody waits for something else. */
export class StandBack {
  private readonly running = new Set<ChildProcess>()
  private timer: ReturnType<typeof setInterval> | null = null
  private stopped = false
  /** When they were stopped, or went on, last. */
  private since = 0

  /** @param isWaiting whether somebody waits now */
  constructor(private readonly isWaiting: () => Promise<boolean>) {}

  /** Holds a program to it until it ends. */
  add(child: ChildProcess): void {
    this.running.add(child)
    if (this.stopped) child.kill('SIGSTOP')
    child.once('close', () => {
      this.running.delete(child)
      if (this.running.size > 0 || !this.timer) return
      clearInterval(this.timer)
      ;[this.timer, this.stopped] = [null, false]
    })
    this.timer ??= setInterval(() => void this.look(), LOOK_MS)
    this.timer.unref()
  }

  private async look(): Promise<void> {
    const waiting = await this.isWaiting()
    const [now, lasted] = [Date.now(), Date.now() - this.since]
    if (this.stopped ? waiting && lasted < MOST_MS : !waiting || lasted < LEAST_MS) return
    this.stopped = !this.stopped
    this.since = now
    for (const child of this.running) child.kill(this.stopped ? 'SIGSTOP' : 'SIGCONT')
  }
}

/** Whether it was just said, by the age of a file. */
export async function saidWaiting(path: string): Promise<boolean> {
  const info = await stat(path).catch(() => null)
  return info !== null && Date.now() - info.mtimeMs < WAITING_MS
}
