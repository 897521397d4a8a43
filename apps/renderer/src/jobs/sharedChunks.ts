import { hostname } from 'node:os'
import { setTimeout as wait } from 'node:timers/promises'
import {
  CHUNK_BEAT_MS,
  chunksOf,
  takeChunk,
  writeChunk,
  type Database,
  type SharedChunk,
  type TakenChunk,
} from '@dusk/store'
import { chooseChunk } from '../render/chunkChoice'
import type { ChunkTask } from '../render/chunkDrawer'
import type { ChunkSupply } from '../render/chunkSupply'

/** How this process is called beside its chunks. */
export const WORKER_NAME = `${hostname()} ${process.pid}`

/** Milliseconds between two looks whether another worker's chunks are done. */
const LOOK_MS = 300

interface Held extends TakenChunk {
  drawn: number
}

/** The chunks of a render that several workers take from the same rows. */
export class SharedChunks implements ChunkSupply {
  private rows: SharedChunk[] = []
  private readonly held = new Map<number, Held>()
  private readonly last: (number | null)[] = []
  private readonly beating: ReturnType<typeof setInterval>
  private looking: Promise<void> | null = null

  /**
   * @param tasks all chunks of the render, in order
   * @param options.stays whether lane 0 waits until all chunks are made, as of the worker that puts them together
   * @param options.seen is told of the rows whenever they were read, with what is drawn here counted
   */
  constructor(
    private readonly db: Database,
    private readonly renderId: string,
    private readonly tasks: readonly ChunkTask[],
    private readonly options: {
      stays: boolean
      signal?: AbortSignal
      seen?: (rows: readonly { state: SharedChunk['state']; drawn: number }[]) => void
    },
  ) {
    this.beating = setInterval(() => void this.beat().catch(() => {}), CHUNK_BEAT_MS)
  }

  get left(): number {
    return this.rows.filter((row) => row.state === 'waiting' || row.silent).length
  }

  addLane(): number {
    return this.last.push(null) - 1
  }

  async next(lane: number): Promise<ChunkTask | null> {
    for (;;) {
      this.options.signal?.throwIfAborted()
      await this.look()
      const choice = chooseChunk(
        this.rows.map(({ n, state, silent }) => ({
          n,
          free: state === 'waiting' || silent,
          busy: state === 'working' && !silent,
        })),
        this.last[lane] ?? null,
      )
      if (choice !== null) {
        const taken = await takeChunk(this.db, this.renderId, choice, WORKER_NAME)
        if (!taken) {
          // Another was quicker, or the render has ended.
          if (!this.options.stays && !(await this.stillFree(choice))) continue
          if (!this.options.stays) return null
          await wait(LOOK_MS)
          continue
        }
        this.held.set(choice, { ...taken, drawn: 0 })
        this.last[lane] = choice
        return this.tasks[choice]!
      }
      const others = this.rows.some(({ n, state }) => state === 'working' && !this.held.has(n))
      if (!this.options.stays || lane > 0 || !others) return null
      await wait(LOOK_MS)
    }
  }

  /** Whether the rows speak of these very chunks. */
  async isOf(chunks: readonly ChunkTask[]): Promise<boolean> {
    await this.look()
    return this.rows.length === chunks.length && this.rows.every(({ n, key }) => chunks[n]?.key === key)
  }

  drew({ n }: { n: number }): void {
    const held = this.held.get(n)
    if (held) held.drawn++
  }

  async made({ n }: { n: number }): Promise<void> {
    const held = this.held.get(n)
    if (!held) return
    this.held.delete(n)
    // Another may have it by now, after a silence of ours: its file has the same bytes.
    await writeChunk(this.db, this.renderId, held, { state: 'ready', drawn: this.frames(n) })
  }

  /** Ends this worker's part: what it has not made is given back. */
  async close(): Promise<void> {
    clearInterval(this.beating)
    for (const held of this.held.values())
      await writeChunk(this.db, this.renderId, held, { state: 'waiting', drawn: 0 }).catch(() => {})
    this.held.clear()
  }

  /** Whether a chunk that could not be taken can still be: then it was the render that has ended. */
  private async stillFree(n: number): Promise<boolean> {
    await this.look()
    const row = this.rows[n]
    return row !== undefined && (row.state === 'waiting' || row.silent)
  }

  private frames(n: number): number {
    const { first, end } = this.tasks[n]!
    return end - first
  }

  private async beat(): Promise<void> {
    for (const held of this.held.values()) await writeChunk(this.db, this.renderId, held, { drawn: held.drawn })
    await this.look()
  }

  /** Reads the rows; several that ask at once get the same answer. */
  private look(): Promise<void> {
    this.looking ??= chunksOf(this.db, this.renderId)
      .then((rows) => {
        this.rows = rows
        this.options.seen?.(
          rows.map(({ n, state, drawn }) => ({ state, drawn: Math.max(drawn, this.held.get(n)?.drawn ?? 0) })),
        )
      })
      .finally(() => (this.looking = null))
    return this.looking
  }
}
