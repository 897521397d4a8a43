import { BLEND_MODES, type Matrix, type PlacedLayer } from '@dusk/timeline'
import type { Engine } from '../engine'
import { Picture } from '../picture'
import { drawFrameStyle, type Paint } from './frameStyle'
import { drawFilling } from './filling'
import type { LayerPainter } from './layerPainter'

/** Lays a layer down on a canvas: filling behind it, outline, motion blur, opacity and blend mode. */
export function placeLayer(
  engine: Engine,
  painter: LayerPainter,
  layer: PlacedLayer,
  paint: Paint,
  target: Picture,
): void {
  if (layer.backgroundFill) drawFilling(engine, painter, layer.backgroundFill, layer.opacity, paint, target)
  if (!layer.frameStyle && !layer.motionBlur && !layer.blend) {
    paint(layer.matrix, layer.opacity, target)
    return
  }
  if (layer.frameStyle && !layer.motionBlur && !layer.blend && layer.opacity === 1) {
    drawFrameStyle(engine, painter, layer.frameStyle, layer, layer.matrix, paint, target)
    return
  }
  const { kernels } = engine
  const { width, height } = target
  const pixels = width * height
  const sheet = Picture.rgba(engine, width, height)
  const drawAt = (matrix: Matrix) => {
    kernels.fill(sheet.address(), pixels, 0)
    if (layer.frameStyle) drawFrameStyle(engine, painter, layer.frameStyle, layer, matrix, paint, sheet)
    else paint(matrix, 1, sheet)
  }
  if (layer.motionBlur) {
    const sums = engine.heap.allocate(pixels * 16)
    kernels.fill(sums, pixels * 4, 0)
    const matrices = layer.motionBlur
    painter.together(() => {
      for (const matrix of matrices) {
        drawAt(matrix)
        kernels.addUp(sheet.address(), sums, pixels * 4)
      }
    })
    kernels.average(sums, sheet.address(), pixels * 4, layer.motionBlur.length)
    engine.heap.release(sums)
  } else drawAt(layer.matrix)
  if (layer.blend) {
    if (layer.opacity < 1) kernels.thin(sheet.address(), pixels, layer.opacity)
    kernels.blendPixels(sheet.address(), target.address(), pixels, BLEND_MODES.indexOf(layer.blend))
  } else kernels.blendRow(sheet.address(), target.address(), pixels, Math.round(layer.opacity * 32_768))
  sheet.release()
}
