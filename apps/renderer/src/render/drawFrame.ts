import type { Compositor, FrameRequest, Picture } from '@dusk/compositor'
import type { Storage } from '@dusk/media'
import { frameAt, needsDrawing, pictureLayers, type FramePlan, type PictureLayer } from '@dusk/timeline'
import { nodeVectorRenderer } from './vectorRenderer'
import type { FramePool } from './framePool'
import { madeFileOf, type SourceBook } from './sources'

/** Number of the frame that a layer shows, of the source or of those made between its own; 0 for stills. */
export function layerFrame(layer: PictureLayer, book: SourceBook): number {
  const made = madeFileOf(layer, book)
  if (made) return made.frame
  const table = book.get(layer.assetId)?.metadata.table
  return table ? frameAt(table, layer.time) : 0
}

/** The source frame that a layer shows, as it is asked for. @param step how far it is from one to the next */
export function frameOf(layer: PictureLayer, book: SourceBook, step?: () => number): FrameRequest {
  const request = { source: fileOf(layer, book), frame: layerFrame(layer, book) }
  return layer.reversed ? { ...request, reversed: true } : { ...request, step }
}

/** What the file that a layer's frames come from is called in the pool: the asset, or a stretch of made frames. */
export function fileOf(layer: PictureLayer, book: SourceBook): string {
  const made = madeFileOf(layer, book)
  return made ? `${layer.assetId}/${made.name}` : layer.assetId
}

/** What frames are drawn with. */
export interface DrawingTools {
  compositor: Compositor
  pool: FramePool
  book: SourceBook
  storage: Storage
}

/**
 * Draws a frame from originals.
 * @param stepOf how far it is from one source frame to the next of a picture layer, by its number in the plan
 * @returns opaque RGBA at the plan's size, good until the next call
 * @throws {Error} naming the source when a picture can't be had
 */
export function drawFrame(plan: FramePlan, tools: DrawingTools, stepOf?: (layer: number) => number): Promise<Picture> {
  return withPictures(plan, tools, stepOf, (pictures) => tools.compositor.compose(plan, pictures))
}

/** {@link drawFrame} as an encoder takes it: planes of 4:2:0. */
export function drawPlanes(
  plan: FramePlan,
  tools: DrawingTools,
  stepOf?: (layer: number) => number,
): Promise<Uint8Array> {
  return withPictures(plan, tools, stepOf, (pictures) => tools.compositor.composeI420(plan, pictures))
}

/** Lets something be drawn with a plan's pictures, in the order of its picture layers. */
async function withPictures<T>(
  plan: FramePlan,
  { compositor, pool, book, storage }: DrawingTools,
  stepOf: (layer: number) => number = () => 1,
  draw: (pictures: (Picture | null)[]) => T,
): Promise<T> {
  const layers = pictureLayers(plan)
  const isVideo = (layer: PictureLayer) => book.get(layer.assetId)!.metadata.kind === 'video'
  const moving = layers.filter(isVideo)
  const frames = await pool.frames(moving.map((layer) => frameOf(layer, book, () => stepOf(layers.indexOf(layer)))))
  try {
    const stills = await pool.stillPictures(layers.filter((layer) => !isVideo(layer)).map((layer) => layer.assetId))
    const byLayer = new Map(moving.map((layer, i) => [layer, frames[i]!]))
    const pictures = layers.map((layer, i) => {
      if (!isVideo(layer)) return stills.get(layer.assetId) ?? null
      const frame = byLayer.get(layer)
      return frame ? pool.picture(layer.assetId, `${i}`, frame) : null
    })
    if (needsDrawing(plan)) {
      compositor.drawing ??= await nodeVectorRenderer(compositor.engine, storage)
      await compositor.drawing.prepare(plan)
    }
    return draw(pictures)
  } finally {
    for (const frame of frames) frame?.release()
  }
}
