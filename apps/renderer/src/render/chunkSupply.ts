import type { ChunkTask } from './chunkDrawer'
import { ChunkRuns } from './chunkRuns'

/** Where the lanes of a process get the chunks that they draw. */
export interface ChunkSupply {
  /** Chunks that nobody has taken yet, as far as is known. */
  readonly left: number
  /** A lane that takes of what is left. @returns its number, from 0 */
  addLane(): number
  /** The next chunk for a lane, or `null` when there is nothing for it any more. */
  next(lane: number): Promise<ChunkTask | null> | ChunkTask | null
  /** A frame of a chunk was drawn. */
  drew(task: Pick<ChunkTask, 'n'>): void
  /** The file of a chunk is in its place. */
  made(task: Pick<ChunkTask, 'n'>): Promise<void> | void
}

/** Chunks that this process makes by itself. */
export class OwnChunks implements ChunkSupply {
  private readonly runs: ChunkRuns<ChunkTask>
  private lanes = 0

  /**
   * @param drawn is called with each frame
   * @param atFirst lanes that begin at once
   */
  constructor(
    tasks: readonly ChunkTask[],
    private readonly drawn: () => void,
    private readonly atFirst = 1,
  ) {
    this.runs = new ChunkRuns(tasks, atFirst)
  }

  get left(): number {
    return this.runs.left
  }

  addLane(): number {
    return this.lanes < this.atFirst ? this.lanes++ : this.runs.addLane()
  }

  next(lane: number): ChunkTask | null {
    return this.runs.next(lane)
  }

  drew(): void {
    this.drawn()
  }

  made(): void {}
}
