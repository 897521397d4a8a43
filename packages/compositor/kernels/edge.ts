// A picture's outline: crop, rounded corners, feather and border, from the distance to a rounded rectangle.
import { alphaFactor, alphaOf, held, loadPixel, loadTwo, storeOne, storePixel, storeTwo, unit } from './pixel'

/** Distance of a point from the edge of a rounded rectangle around the origin; negative inside. */
// @ts-ignore: decorator
@inline
function distance(x: f32, y: f32, halfW: f32, halfH: f32, radius: f32): f32 {
  const dx = abs(x) - halfW + radius
  const dy = abs(y) - halfH + radius
  const ax = max<f32>(dx, 0)
  const ay = max<f32>(dy, 0)
  return sqrt<f32>(ax * ax + ay * ay) + min<f32>(max(dx, dy), 0) - radius
}

/**
 * Cuts premultiplied pixels (w × h) to the rectangle x0…x1, y0…y1 with round corners; its edge fades over `feather`
 * pixels inwards. A border `border` wide is drawn around it, its colour premultiplied by its own opacity of one.
 */
export function shapeEdge(
  pixels: usize,
  w: i32,
  h: i32,
  x0: f32,
  y0: f32,
  x1: f32,
  y1: f32,
  radius: f32,
  feather: f32,
  border: f32,
  r: f32,
  g: f32,
  b: f32,
): void {
  const halfW = (x1 - x0) / 2
  const halfH = (y1 - y0) / 2
  const cx = (x0 + x1) / 2
  const cy = (y0 + y1) / 2
  const round = min(radius, min(halfW, halfH))
  const outer = border > 0 ? round + border : round
  const paint = held(f32x4(r, g, b, 255))
  const over255 = f32x4.splat(1.0 / 255.0)
  const one = f32x4.splat(1)
  const empty = halfW <= 0 || halfH <= 0
  // Columns that the edge or the border can reach; beyond them nothing is left of the picture.
  const left = empty ? w : min(max(<i32>floor(x0 - border - 1), 0), w)
  const right = empty ? w : max(min(<i32>ceil(x1 + border + 1), w), left)
  for (let y = 0; y < h; y++) {
    const py = <f32>y + 0.5 - cy
    const row = pixels + <usize>(y * w) * 4
    if (empty || abs(py) > halfH + border + 1) {
      memory.fill(row, 0, <usize>w * 4)
      continue
    }
    memory.fill(row, 0, <usize>left * 4)
    memory.fill(row + <usize>right * 4, 0, <usize>(w - right) * 4)
    // Between round corners, or below them, a row lies well inside but for its ends.
    const inset =
      abs(py) < halfH - max(round, feather) - 1 ? feather : abs(py) < halfH - feather - 1 ? max(round, feather) : halfW
    const skipFrom = <i32>(cx - halfW + inset + 2)
    const skipTo = <i32>(cx + halfW - inset - 2)
    for (let x = left; x < right; x++) {
      if (x >= skipFrom && x < skipTo) x = min(skipTo, w - 1)
      const px = <f32>x + 0.5 - cx
      const d = empty ? <f32>1e6 : distance(px, py, halfW, halfH, round)
      const inside: f32 = feather > 1 ? unit(-d / feather) : unit(<f32>0.5 - d)
      const p = row + <usize>x * 4
      if (inside >= 1) continue
      let pixel = f32x4.mul(loadPixel(p), f32x4.splat(inside))
      if (border > 0 && !empty) {
        const ring = unit(<f32>0.5 - distance(px, py, halfW + border, halfH + border, outer))
        const under = f32x4.mul(paint, f32x4.splat(ring))
        pixel = f32x4.add(pixel, f32x4.mul(under, f32x4.sub(one, f32x4.mul(alphaOf(pixel), over255))))
      }
      storePixel(p, pixel)
    }
  }
}

/** A picture's outline in one colour: every pixel becomes the colour times its alpha times `strength` (0…1). */
export function tint(src: usize, dst: usize, n: i32, r: f32, g: f32, b: f32, strength: f32): void {
  const k = strength * 128
  const colour = held(
    i16x8(
      <i16>(r * k),
      <i16>(g * k),
      <i16>(b * k),
      <i16>(255 * k),
      <i16>(r * k),
      <i16>(g * k),
      <i16>(b * k),
      <i16>(255 * k),
    ),
  )
  let i = 0
  for (; i + 2 <= n; i += 2)
    storeTwo(dst + <usize>i * 4, i16x8.q15mulr_sat_s(colour, alphaFactor(loadTwo(src + <usize>i * 4))))
  if (i < n) storeOne(dst + <usize>i * 4, i16x8.q15mulr_sat_s(colour, alphaFactor(loadTwo(src + <usize>i * 4))))
}

/** Fades rows out downwards: row 0 keeps `strength`, the row at `length` and all below are gone. */
export function fadeDown(pixels: usize, w: i32, h: i32, strength: f32, length: f32): void {
  for (let y = 0; y < h; y++) {
    const k = held(f32x4.splat(strength * unit(1 - (<f32>y + 0.5) / length)))
    const row = pixels + <usize>(y * w) * 4
    for (let x = 0; x < w; x++) storePixel(row + <usize>x * 4, f32x4.mul(loadPixel(row + <usize>x * 4), k))
  }
}

/** Turns rows upside down, from `src` to `dst`. */
export function flipRows(src: usize, dst: usize, w: i32, h: i32): void {
  const stride = <usize>w * 4
  for (let y = 0; y < h; y++) memory.copy(dst + <usize>(h - 1 - y) * stride, src + <usize>y * stride, stride)
}
