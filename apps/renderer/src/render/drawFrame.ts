import type { Compositor, Picture } from '@dusk/compositor'
import { frameAt, needsDrawing, pictureLayers, type FramePlan, type PictureLayer } from '@dusk/timeline'
import { nodeVectorRenderer } from './vectorRenderer'
import type { Frame, FramePool } from './framePool'
import type { SourceBook } from './sources'

/** Number of the source frame that a layer shows; 0 for stills. */
export function layerFrame(layer: PictureLayer, book: SourceBook): number {
  const table = book.get(layer.assetId)?.metadata.table
  return table ? frameAt(table, layer.time) : 0
}

/**
 * Draws a frame from originals.
 * @returns opaque RGBA at the plan's size, good until the next call
 * @throws {Error} naming the source when a picture can't be had
 */
export async function drawFrame(
  plan: FramePlan,
  compositor: Compositor,
  pool: FramePool,
  book: SourceBook,
): Promise<Picture> {
  const frames: (Frame | null)[] = []
  try {
    const layers = pictureLayers(plan)
    for (const layer of layers) {
      const moving = book.get(layer.assetId)!.metadata.kind === 'video'
      frames.push(moving ? await pool.frame(layer.assetId, layerFrame(layer, book)) : null)
    }
    const pictures: (Picture | null)[] = []
    for (const [i, layer] of layers.entries()) pictures.push(await pool.picture(layer.assetId, `${i}`, frames[i]!))
    if (needsDrawing(plan)) {
      compositor.drawing ??= await nodeVectorRenderer(compositor.engine)
      await compositor.drawing.prepare(plan)
    }
    return compositor.compose(plan, pictures)
  } finally {
    for (const frame of frames) frame?.release()
  }
}
