import { spawn, type ChildProcess } from 'node:child_process'
import { existsSync, readFileSync } from 'node:fs'
import { join } from 'node:path'
import { StudioClient } from '../../scripts/dusk/client'
import { keyOf } from '../../scripts/dusk/keyFile'
import { readState } from '../../scripts/dusk/stateFile'

export const PARTS = ['studio', 'worker', 'database', 'supervisor'] as const
export type PartName = (typeof PARTS)[number]

/** `./dusk start` with a data folder of its own, whose parts are killed. */
export class Supervised {
  readonly log: string[] = []
  private child: ChildProcess | null = null
  private ending = false

  constructor(
    readonly data: string,
    readonly port: number,
  ) {}

  /** Starts it; once it was killed it is started again, as a service would be. */
  start(): void {
    // A studio of its own: what the tests around it are told of theirs is no business of it.
    const { NODE_ENV: _, DUSK_BOARD: __, BOARD_PORT: ___, ...env } = process.env
    const args = ['start', '--data', this.data, '--port', String(this.port), '--no-demo']
    const child = spawn('node', ['--import', 'tsx', 'scripts/dusk/main.ts', ...args], {
      env: { ...env, HOME: process.env.HOME },
      stdio: ['ignore', 'pipe', 'pipe'],
    })
    const take = (chunk: Buffer) => this.log.push(...chunk.toString().split('\n').filter(Boolean))
    child.stdout.on('data', take)
    child.stderr.on('data', take)
    child.once('exit', () => {
      if (!this.ending) setTimeout(() => this.start(), 500)
    })
    this.child = child
  }

  get client(): StudioClient {
    return new StudioClient({ origin: `http://127.0.0.1:${this.port}`, key: keyOf(this.data) })
  }

  /** Waits until the studio answers. @returns seconds that took */
  async up(seconds = 60): Promise<number> {
    const began = Date.now()
    while (Date.now() - began < seconds * 1000) {
      if (existsSync(join(this.data, 'key')) && (await this.client.answers())) return (Date.now() - began) / 1000
      await new Promise((resolve) => setTimeout(resolve, 100))
    }
    throw new Error(`The studio did not answer within ${seconds} s:\n${this.log.slice(-15).join('\n')}`)
  }

  private pidOf(part: PartName): number | null {
    if (part === 'supervisor') return this.child?.pid ?? null
    if (part !== 'database') return readState(this.data)?.[part].pid ?? null
    const path = join(this.data, 'postgres/postmaster.pid')
    return existsSync(path) ? Number(readFileSync(path, 'utf8').split('\n')[0]) : null
  }

  /** Kills a part at once. @returns whether there was one */
  kill(part: PartName): boolean {
    const pid = this.pidOf(part)
    if (!pid) return false
    try {
      process.kill(pid, 'SIGKILL')
      return true
    } catch {
      return false
    }
  }

  async stop(): Promise<void> {
    this.ending = true
    const { child } = this
    if (!child || child.exitCode !== null) return
    const gone = new Promise<void>((resolve) => child.once('exit', () => resolve()))
    child.kill('SIGTERM')
    await gone
  }
}
