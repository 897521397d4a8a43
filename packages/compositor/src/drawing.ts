import type { GeneratorLayer, Matrix, TitleLayer } from '@dusk/timeline'
import type { Picture } from './picture'

/** A drawn piece with its place in the layer it belongs to. */
export interface Sprite {
  picture: Picture
  /** From the piece's pixels to the layer's. */
  matrix: Matrix
  /** 0 to 1. */
  opacity: number
}

/**
 * Draws words and shapes as pictures. What does not change from frame to frame is drawn once and kept; the pictures
 * belong to the room and are good until the next call.
 */
export interface DrawingRoom {
  /** @param scale output pixels per reel pixel */
  title(layer: TitleLayer, scale: number): Sprite[]
  generator(layer: GeneratorLayer, scale: number): Sprite[]
  release(): void
}
