import { describe, expect, it } from 'vitest'
import type { ChunkDrawer, ChunkTask } from '../src/render/chunkDrawer'
import { emptyingAtOnce, runLane } from '../src/render/chunkLane'

/** Chunks of so many frames; `c` before the number says that they are copied. */
function tasksOf(...lengths: string[]): ChunkTask[] {
  let first = 0
  return lengths.map((text, n) => {
    const frames = Number(text.replace('c', ''))
    const copied = text.startsWith('c') ? { assetId: 'film', frame: 0 } : undefined
    const task: ChunkTask = { n, key: text, path: text, first, end: (first += frames), copied }
    return task
  })
}

/** Encoders that are emptied when the test says so. */
class Slow {
  constructor(readonly shape = { width: 320, height: 180 }) {}
  readonly begun: number[] = []
  closed = 0
  readonly ends: { end(): void; fail(error: Error): void }[] = []

  async draw({ n }: ChunkTask): Promise<{ finished: Promise<void> }> {
    this.begun.push(n)
    return { finished: new Promise((end, fail) => (this.ends[n] = { end, fail })) }
  }

  async close(): Promise<void> {
    this.closed++
  }
}

const settled = () => new Promise((resolve) => setTimeout(resolve, 20))
function start(tasks: ChunkTask[]) {
  const drawer = new Slow()
  const made: number[] = []
  const waiting = [...tasks]
  const lane = runLane(drawer as unknown as ChunkDrawer, () => waiting.shift() ?? null, {
    made: ({ n }) => void made.push(n),
  })
  lane.catch(() => {})
  return { drawer, lane, made }
}

describe('a lane', () => {
  it('draws the next chunk while the encoder of a long one is emptied, and no further', async () => {
    const { drawer, lane, made } = start(tasksOf('120', '120', '120'))
    await settled()
    expect(drawer.begun).toEqual([0, 1])
    drawer.ends[0]!.end()
    await settled()
    expect(drawer.begun).toEqual([0, 1, 2])
    drawer.ends[2]!.end()
    await settled()
    expect(made).toEqual([0, 2])
    drawer.ends[1]!.end()
    await lane
    expect(made).toEqual([0, 2, 1])
    expect(drawer.closed).toBe(1)
  })

  it('goes on past short chunks and copied ones, of which a few are emptied at once', async () => {
    const { drawer, lane } = start(tasksOf('3', 'c120', '7', '4', 'c60', '5', '2', 'c90', '1', '6', 'c70'))
    await settled()
    expect(drawer.begun).toEqual([0, 1, 2, 3, 4, 5, 6, 7, 8])
    drawer.ends[0]!.end()
    await settled()
    expect(drawer.begun).toEqual([0, 1, 2, 3, 4, 5, 6, 7, 8, 9])
    drawer.ends[1]!.end()
    await settled()
    drawer.ends.forEach(({ end }) => end())
    await lane
    expect(drawer.begun).toHaveLength(11)
  })

  it('waits for short chunks too once they have many frames in all', async () => {
    const { drawer, lane } = start(tasksOf('40', '30', '2'))
    await settled()
    expect(drawer.begun).toEqual([0, 1])
    drawer.ends.forEach(({ end }) => end())
    await settled()
    drawer.ends[2]!.end()
    await lane
  })

  it('has fewer encoders at once the larger their pictures are', () => {
    const most = [360, 720, 1080, 2160].map((height) => emptyingAtOnce({ width: (height * 16) / 9, height }))
    expect(most).toEqual([8, 5, 3, 2])
  })

  it('fails when an encoder does, and closes what it has', async () => {
    const { drawer, lane } = start(tasksOf('13', '7'))
    await settled()
    drawer.ends[1]!.end()
    drawer.ends[0]!.fail(new Error('the encoder ended'))
    await expect(lane).rejects.toThrow('the encoder ended')
    expect(drawer.closed).toBe(1)
  })
})
