import type { ChunkDrawer, ChunkTask } from './chunkDrawer'

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
    let before: Promise<void> | null = null
    for (let task = await next(); task; task = await next()) {
      const drawn = task
      const { finished } = await drawer.draw(drawn, { signal: options.signal, drawn: () => options.drew?.(drawn) })
      await before
      before = finished.then(() => options.made?.(drawn))
      // Awaited after the next one: until then it must not count as unhandled.
      before.catch(() => {})
    }
    await before
  } finally {
    await drawer.close()
  }
}
