import type { SourceMetadata } from '@dusk/timeline'
import { FrameReader } from './frameReader'
import { i420Size } from './i420'
import { proxySize } from './inputTransform'

/** Frames of an original at the size of its proxy or smaller, read in order from one on. */
export interface SmallFrames {
  width: number
  height: number
  /** Bytes of a frame: its 4:2:0 planes one after the other. */
  bytes: number
  reader: FrameReader
}

/**
 * Decodes an original as its proxy would show it, for previews before there is one: the same frames, brought to the
 * same size by the same filter.
 * @param longest pixels of the longer side at most, no more than a proxy has
 */
export function smallFrames(path: string, metadata: SourceMetadata, frame: number, longest?: number): SmallFrames {
  const { width, height } = proxySize(metadata.width!, metadata.height!, longest)
  const filters = [...metadata.filters, `scale=${width}:${height}:flags=bicubic`]
  const reader = new FrameReader(path, { ...metadata, width, height, filters }, frame)
  return { width, height, bytes: i420Size(width, height), reader }
}
