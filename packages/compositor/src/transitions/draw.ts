import { BLEND_MODES, easeAt, resolveParams, type BlendMode, type TransitionLayer } from '@dusk/timeline'
import type { Engine } from '../engine'
import type { LayerPainter } from '../layers/layerPainter'
import { Picture } from '../picture'
import { transitionById } from './index'
import type { MapStore } from './maps'
import { Stage } from './stage'

/** What transitions keep from frame to frame. */
export interface StageMemory {
  engine: Engine
  painter: LayerPainter
  maps: MapStore
}

/** How far a change is at its frame, from 0 (all of the first picture) to 1, eased. */
export function progressOf(layer: TransitionLayer): number {
  const { params, peak } = transitionById(layer.transition)
  const settings = resolveParams(params, layer.settings, 0)
  const eased = (progress: number) => easeAt(settings.ease as 'linear', Math.min(Math.max(progress, 0), 1))
  const half = (layer.step ?? 0) / 2
  // A hair of the grain in which plans are rounded, so that exactly one of two neighbours has the middle.
  const holds =
    peak !== undefined && eased(layer.progress - half + 1e-4) < peak && peak <= eased(layer.progress + half + 1e-4)
  return holds ? peak : eased(layer.progress)
}

/**
 * Draws a change from one picture to another over a canvas; all four are of one size. Unknown kinds dissolve.
 * @param blend how the outcome mixes with the canvas; normal when left out
 */
export function drawTransition(
  memory: StageMemory,
  layer: TransitionLayer,
  from: Picture,
  to: Picture,
  target: Picture,
  blend?: Exclude<BlendMode, 'normal'>,
): void {
  const { engine, painter, maps } = memory
  const kind = transitionById(layer.transition)
  const settings = resolveParams(kind.params, layer.settings, 0)
  const out = Picture.rgba(engine, target.width, target.height)
  engine.kernels.fill(out.address(), out.width * out.height, 0)
  const stage = new Stage(engine, painter, maps, from, to, out)
  kind.draw(stage, progressOf(layer), settings)
  stage.release()
  const pixels = out.width * out.height
  if (blend) engine.kernels.blendPixels(out.address(), target.address(), pixels, BLEND_MODES.indexOf(blend))
  else engine.kernels.blendRow(out.address(), target.address(), pixels, 32_768)
  out.release()
}
