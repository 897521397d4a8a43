import type { Compositor, FrameRequest, Picture } from '@dusk/compositor'
import { frameAt, needsDrawing, pictureLayers, type FramePlan, type PictureLayer } from '@dusk/timeline'
import { nodeVectorRenderer } from './vectorRenderer'
import type { FramePool } from './framePool'
import type { SourceBook } from './sources'

/** Number of the source frame that a layer shows; 0 for stills. */
export function layerFrame(layer: PictureLayer, book: SourceBook): number {
  const table = book.get(layer.assetId)?.metadata.table
  return table ? frameAt(table, layer.time) : 0
}

/** The source frame that a layer shows, as it is asked for. */
export function frameOf(layer: PictureLayer, book: SourceBook): FrameRequest {
  return { source: layer.assetId, frame: layerFrame(layer, book), ...(layer.reversed ? { reversed: true } : {}) }
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
  const layers = pictureLayers(plan)
  const isVideo = (layer: PictureLayer) => book.get(layer.assetId)!.metadata.kind === 'video'
  const moving = layers.filter(isVideo)
  const frames = await pool.frames(moving.map((layer) => frameOf(layer, book)))
  try {
    const stills = await pool.stillPictures(layers.filter((layer) => !isVideo(layer)).map((layer) => layer.assetId))
    const byLayer = new Map(moving.map((layer, i) => [layer, frames[i]!]))
    const pictures = layers.map((layer, i) => {
      if (!isVideo(layer)) return stills.get(layer.assetId) ?? null
      const frame = byLayer.get(layer)
      return frame ? pool.picture(layer.assetId, `${i}`, frame) : null
    })
    if (needsDrawing(plan)) {
      compositor.drawing ??= await nodeVectorRenderer(compositor.engine)
      await compositor.drawing.prepare(plan)
    }
    return compositor.compose(plan, pictures)
  } finally {
    for (const frame of frames) frame?.release()
  }
}
