import type { Chunk } from './chunks'

/**
 * Shares chunks out to lanes: each has a run of neighbours, since a decoder that goes on costs a fraction of one that
 * begins again. A lane that is through takes the later half of the longest run that is left.
 */
export class ChunkRuns<T extends Chunk> {
  private readonly runs: T[][]

  /** @param chunks in order */
  constructor(chunks: readonly T[], lanes: number) {
    const whole = framesOf(chunks)
    this.runs = Array.from({ length: lanes }, () => [])
    let before = 0
    for (const chunk of chunks) {
      // By where its middle lies, so that the runs are about equally long.
      const middle = before + (chunk.end - chunk.first) / 2
      this.runs[Math.min(lanes - 1, Math.floor((middle / whole) * lanes))]!.push(chunk)
      before += chunk.end - chunk.first
    }
  }

  /** Chunks that nobody has taken yet. */
  get left(): number {
    return this.runs.reduce((sum, run) => sum + run.length, 0)
  }

  /** Another lane, which takes of what the others have left. @returns its number */
  addLane(): number {
    return this.runs.push([]) - 1
  }

  /** The next chunk for a lane, or `null` when none is left. */
  next(lane: number): T | null {
    const own = this.runs[lane]!
    if (own.length === 0) {
      const longest = this.runs.reduce((a, b) => (framesOf(b) > framesOf(a) ? b : a))
      own.push(...longest.splice(Math.floor(longest.length / 2)))
    }
    return own.shift() ?? null
  }
}

function framesOf(chunks: readonly Chunk[]): number {
  return chunks.reduce((sum, { first, end }) => sum + end - first, 0)
}
