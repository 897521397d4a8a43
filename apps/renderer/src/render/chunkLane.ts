import { sum } from 'd3-array'
import type { ChunkDrawer, ChunkTask } from './chunkDrawer'

/**
 * Encoders that may empty their last frames while the next chunk is drawn, and the frames of all but one of them: short
 * chunks, as those beside copied ones, are through before their encoder has begun; of long ones each takes memory.
 */
const EMPTYING = 8
const EMPTYING_FRAMES = 60

/** Draws chunks for as long as there are any, and waits for their files. The drawer is closed at the end. */
export async function runLane(
  drawer: ChunkDrawer,
  next: () => Promise<ChunkTask | null> | ChunkTask | null,
  options: {
    signal?: AbortSignal
    drew?: (task: ChunkTask) => void
    made?: (task: ChunkTask) => Promise<void> | void
  },
): Promise<void> {
  try {
    const emptying: { frames: number; done: Promise<void> }[] = []
    for (let task = await next(); task; task = await next()) {
      const drawn = task
      const { finished } = await drawer.draw(drawn, { signal: options.signal, drawn: () => options.drew?.(drawn) })
      const done = finished.then(() => options.made?.(drawn))
      // Awaited later: until then it must not count as unhandled.
      done.catch(() => {})
      emptying.push({ frames: drawn.copied ? 0 : drawn.end - drawn.first, done })
      while (
        emptying.length > 1 &&
        (emptying.length > EMPTYING || sum(emptying, ({ frames }) => frames) > EMPTYING_FRAMES)
      )
        await emptying.shift()!.done
    }
    for (const { done } of emptying) await done
  } finally {
    await drawer.close()
  }
}
