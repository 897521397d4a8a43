import { leavesOf, type FramePlan, type GeneratorLayer, type Matrix, type TitleLayer } from '@dusk/timeline'
import type { Picture } from '../picture'

/** A drawn piece with its place in the layer it belongs to. */
export interface Sprite {
  picture: Picture
  /** From the piece's pixels to the layer's. */
  matrix: Matrix
  /** 0 to 1. */
  opacity: number
}

/** Where a title's words are in the frame, in reel pixels; what the caret and the selection are drawn from. */
export interface TitleMeasure {
  left: number
  top: number
  width: number
  height: number
  /** Letters that no font here can draw, and where they stand in the text. */
  missing: { letter: string; at: number }[]
  /** Width that its lines have, and that of its widest word: a wider one is broken within. */
  room: number
  widestWord: number
}

/** A rectangle in reel pixels. */
export interface Rect {
  x: number
  y: number
  width: number
  height: number
}

/**
 * Draws words and shapes as pictures. What does not change from frame to frame is drawn once and kept; the pictures
 * belong to the room and are good until the next call.
 */
export interface VectorRenderer {
  /** Reads the fonts that a plan's words need. To be awaited before it is drawn. @throws when a font can't be read */
  prepare(plan: FramePlan): Promise<void>
  /** @param scale output pixels per reel pixel */
  title(layer: TitleLayer, scale: number): Sprite[]
  generator(layer: GeneratorLayer, scale: number): Sprite[]
  /** Where a title's words lie. Its fonts must have been read. */
  measure(layer: TitleLayer): TitleMeasure
  /** Boxes of a range of a title's letters, one a line; of an empty range the place of a caret. */
  rangeRects(layer: TitleLayer, from: number, to: number): Rect[]
  /** The place in a title's text nearest to a point of the frame. */
  letterAt(layer: TitleLayer, x: number, y: number): number
  release(): void
}

/** Titles of a plan, at any depth. */
export function titlesOf(plan: FramePlan): TitleLayer[] {
  return leavesOf(plan).filter((layer) => layer.kind === 'title')
}

/** Generated pictures of a plan, at any depth. */
export function generatorsOf(plan: FramePlan): GeneratorLayer[] {
  return leavesOf(plan).filter((layer) => layer.kind === 'generator')
}
