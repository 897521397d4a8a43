import type { ChunkDrawer, ChunkTask } from './chunkDrawer'

/** Draws chunks for as long as there are any, and waits for their files. The drawer is closed at the end. */
export async function runLane(
  drawer: ChunkDrawer,
  next: () => Promise<ChunkTask | null> | ChunkTask | null,
  options: { signal?: AbortSignal; drawn?: () => void },
): Promise<void> {
  try {
    let before: Promise<void> | null = null
    for (let task = await next(); task; task = await next()) {
      const { finished } = await drawer.draw(task, options)
      await before
      before = finished
    }
    await before
  } finally {
    drawer.close()
  }
}
