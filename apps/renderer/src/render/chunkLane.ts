import { sum } from 'd3-array'
import type { ChunkDrawer, ChunkTask } from './chunkDrawer'

/** Frames of all encoders but one that may empty their last frames while the next chunk is drawn. */
const EMPTYING_FRAMES = 60
/** Bytes that they may take together; and what each takes, by itself and for each pixel of its pictures. */
const EMPTYING_BYTES = 700e6
const ENCODER_BYTES = 50e6
const ENCODER_BYTES_A_PIXEL = 73
/** Most of them, however small their pictures are. */
const EMPTYING_MOST = 8

/**
 * Encoders that may empty their last frames while the next chunk is drawn: short chunks, as those beside copied ones,
 * are through before their encoder has begun.
 */
export function emptyingAtOnce({ width, height }: { width: number; height: number }): number {
  const fits = Math.floor(EMPTYING_BYTES / (ENCODER_BYTES + ENCODER_BYTES_A_PIXEL * width * height))
  return Math.min(EMPTYING_MOST, Math.max(2, fits))
}

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
    const most = emptyingAtOnce(drawer.shape)
    const emptying: { frames: number; done: Promise<void> }[] = []
    for (let task = await next(); task; task = await next()) {
      const drawn = task
      const { finished } = await drawer.draw(drawn, { signal: options.signal, drawn: () => options.drew?.(drawn) })
      const done = finished.then(() => options.made?.(drawn))
      // Awaited later: until then it must not count as unhandled.
      done.catch(() => {})
      emptying.push({ frames: drawn.copied ? 0 : drawn.end - drawn.first, done })
      while (emptying.length > 1 && (emptying.length > most || sum(emptying, ({ frames }) => frames) > EMPTYING_FRAMES))
        await emptying.shift()!.done
    }
    for (const { done } of emptying) await done
  } finally {
    await drawer.close()
  }
}
