import { multiply, type LayerPlan, type Matrix, type PlacedLayer } from '@dusk/timeline'
import type { Sprite } from './drawing/vectorRenderer'
import { keepsSolid } from './effects/apply'

/** Rows of an output, from the first to before the last; both even, as chroma is shared by two. */
export interface Rows {
  from: number
  to: number
}

/** Pixels around a layer's outline that drawing it may touch. */
const MARGIN = 2

/**
 * The rows of an output that layers may draw on.
 * @param spritesOf pieces of a lettered or drawn layer
 * @returns `null` where that can't be said beforehand: all of them may be touched
 */
export function overlayRows(
  layers: readonly LayerPlan[],
  height: number,
  spritesOf: (layer: PlacedLayer) => readonly Sprite[],
): Rows | null {
  let [top, bottom] = [Infinity, -Infinity]
  const add = (matrix: Matrix, w: number, h: number) => {
    const [, b, , d, , f] = matrix
    top = Math.min(top, f + Math.min(0, b * w) + Math.min(0, d * h))
    bottom = Math.max(bottom, f + Math.max(0, b * w) + Math.max(0, d * h))
  }
  for (const layer of layers) {
    if (layer.kind === 'transition' || !keepsToItself(layer)) return null
    if (layer.kind === 'picture') add(layer.matrix, layer.width, layer.height)
    else if (layer.kind === 'title' || layer.kind === 'generator')
      for (const { picture, matrix } of spritesOf(layer))
        add(multiply(layer.matrix, matrix), picture.width, picture.height)
    else return null
  }
  const even = (row: number) => Math.min(Math.max(Math.floor(row / 2) * 2, 0), height)
  const [from, to] = [even(top - MARGIN), even(bottom + MARGIN + 2)]
  return to > from ? { from, to } : { from: 0, to: 0 }
}

/** Whether a layer draws nothing beyond its own outline. */
function keepsToItself(layer: PlacedLayer): boolean {
  if (layer.blend || layer.frameStyle || layer.backgroundFill || layer.motionBlur) return false
  return !layer.effects || keepsSolid(layer.effects)
}
