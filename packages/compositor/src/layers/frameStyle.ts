import { invert, multiply, scaling, translation, type FrameStylePlan, type Matrix } from '@dusk/timeline'
import { colourParts } from '../colour'
import type { Engine } from '../engine'
import { Picture } from '../picture'
import { blurPicture } from './blur'
import type { LayerPainter } from './layerPainter'

/** Draws a layer's own picture by a matrix, over a canvas. */
export type Paint = (matrix: Matrix, opacity: number, target: Picture) => void

/** Largest side of the picture that an outline is worked out on; larger ones are worked out smaller and enlarged. */
const LARGEST = 4096

/**
 * Draws a layer with crop, rounded corners, border, shadow and reflection. The outline is worked out on the upright
 * picture at its size in the output, so that it is as sharp as what it surrounds, and then turned with it.
 */
export function drawFrameStyle(
  engine: Engine,
  painter: LayerPainter,
  edge: FrameStylePlan,
  size: { width: number; height: number },
  matrix: Matrix,
  paint: Paint,
  target: Picture,
): void {
  const { kernels } = engine
  const [a, b, c, d, e, f] = matrix
  let [sx, sy] = [Math.sqrt(a * a + b * b), Math.sqrt(c * c + d * d)]
  if (!(sx > 0) || !(sy > 0)) return
  const shrink = Math.min(1, LARGEST / Math.max(size.width * sx, size.height * sy))
  sx *= shrink
  sy *= shrink
  const lengths = (value: number) => value * shrink
  const border = lengths(edge.border)
  const pad = Math.ceil(border) + 2
  const upright = b === 0 && c === 0 && a > 0 && d > 0 && shrink === 1
  // Upright pictures keep their place within a pixel, so that laying them down is a plain copy.
  const [fx, fy] = upright ? [e - Math.floor(e), f - Math.floor(f)] : [0, 0]
  const [w, h] = [Math.ceil(size.width * sx + fx) + 2 * pad, Math.ceil(size.height * sy + fy) + 2 * pad]
  const local: Matrix = [sx, 0, 0, sy, pad + fx, pad + fy]
  const out = multiply(matrix, invert(local)!)
  const { crop } = edge
  const x0 = pad + fx + size.width * sx * crop.left
  const x1 = pad + fx + size.width * sx * (1 - crop.right)
  const y0 = pad + fy + size.height * sy * crop.top
  const y1 = pad + fy + size.height * sy * (1 - crop.bottom)
  if (x1 - x0 < 1 / 64 || y1 - y0 < 1 / 64) return
  const picture = Picture.rgba(engine, w, h)
  kernels.fill(picture.address(), w * h, 0)
  paint(local, 1, picture)
  const [r, g, bl] = colourParts(edge.borderColour)
  kernels.shapeEdge(
    picture.address(),
    w,
    h,
    x0,
    y0,
    x1,
    y1,
    lengths(edge.cornerRadius),
    lengths(edge.feather),
    border,
    r,
    g,
    bl,
  )
  if (edge.shadow) drawShadow(engine, painter, edge.shadow, picture, lengths(edge.shadow.blur), out, target)
  if (edge.reflection) {
    const { strength, length, gap } = edge.reflection
    const bottom = Math.min(h, y1 + border)
    const mirrored = Picture.rgba(engine, w, h)
    kernels.flipRows(picture.address(), mirrored.address(), w, h)
    const above = h - bottom
    kernels.fadeDown(mirrored.address(), w, h, strength, above + Math.max(1, (y1 - y0) * length))
    const place = multiply(out, translation(0, bottom + lengths(gap) - above))
    painter.draw(mirrored, place, 1, false, target.address(), target.width, target.height)
    mirrored.release()
  }
  painter.draw(picture, tidy(out), 1, false, target.address(), target.width, target.height)
  picture.release()
}

/** Whole-number placement is exact, so that upright pictures are copied and not resampled. */
function tidy(matrix: Matrix): Matrix {
  return matrix.map((value) =>
    Math.abs(value - Math.round(value)) < 1e-6 ? Math.round(value) : value,
  ) as unknown as Matrix
}

function drawShadow(
  engine: Engine,
  painter: LayerPainter,
  shadow: NonNullable<FrameStylePlan['shadow']>,
  picture: Picture,
  blur: number,
  out: Matrix,
  target: Picture,
): void {
  const { kernels } = engine
  // Soft shadows are made small: a blur of many pixels hides what halving loses.
  let [w, h, halvings] = [picture.width, picture.height, 0]
  let source = picture.address()
  let owned = 0
  while (blur / (1 << halvings) > 12 && w > 8 && h > 8) {
    const half = engine.heap.allocate(((w + 1) >> 1) * ((h + 1) >> 1) * 4)
    kernels.halve(source, w, h, half)
    if (owned) engine.heap.release(owned)
    owned = source = half
    ;[w, h, halvings] = [(w + 1) >> 1, (h + 1) >> 1, halvings + 1]
  }
  const step = 1 << halvings
  const sigma = blur / 2 / step
  const margin = Math.ceil(sigma * 3) + 1
  const dark = Picture.rgba(engine, w + 2 * margin, h + 2 * margin)
  kernels.fill(dark.address(), dark.width * dark.height, 0)
  const [r, g, b] = colourParts(shadow.colour)
  for (let y = 0; y < h; y++)
    kernels.tint(
      source + y * w * 4,
      dark.address() + ((y + margin) * dark.width + margin) * 4,
      w,
      r,
      g,
      b,
      shadow.strength,
    )
  if (owned) engine.heap.release(owned)
  blurPicture(engine, dark, sigma, sigma)
  const place = multiply(
    multiply(translation(shadow.x, shadow.y), out),
    multiply(scaling(step, step), translation(-margin, -margin)),
  )
  painter.draw(dark, place, 1, false, target.address(), target.width, target.height)
  dark.release()
}
