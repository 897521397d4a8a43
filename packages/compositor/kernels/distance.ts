// Signed distances to the shapes of masks: floats, below zero inside.
import { unit } from './pixel'

/** Every distance as far as can be. */
export function farAway(distance: usize, n: i32, value: f32): void {
  const all = f32x4.splat(value)
  let p = distance
  const end = distance + <usize>n * 4
  for (; p + 16 <= end; p += 16) v128.store(p, all)
  for (; p < end; p += 4) store<f32>(p, value)
}

/**
 * Nears distances to those to a line from (x0, y0) to (x1, y1) less `width`, within `reach` pixels of it. With `erase`
 * 1
 * it takes the line out again: distances are at least as far as it is wide.
 */
export function nearLine(
  distance: usize,
  w: i32,
  h: i32,
  x0: f32,
  y0: f32,
  x1: f32,
  y1: f32,
  width: f32,
  reach: f32,
  erase: i32,
): void {
  const far = reach + width
  const left = max(<i32>floor<f32>(min(x0, x1) - far), 0)
  const right = min(<i32>ceil<f32>(max(x0, x1) + far) + 1, w)
  const top = max(<i32>floor<f32>(min(y0, y1) - far), 0)
  const bottom = min(<i32>ceil<f32>(max(y0, y1) + far) + 1, h)
  const dx = x1 - x0
  const dy = y1 - y0
  const length = dx * dx + dy * dy
  const per: f32 = length > 0 ? 1 / length : 0
  for (let y = top; y < bottom; y++) {
    const py = <f32>y + 0.5 - y0
    for (let x = left; x < right; x++) {
      const px = <f32>x + 0.5 - x0
      const t = unit((px * dx + py * dy) * per)
      const ex = px - dx * t
      const ey = py - dy * t
      const d = sqrt<f32>(ex * ex + ey * ey) - width
      const p = distance + <usize>(y * w + x) * 4
      if (erase != 0) store<f32>(p, max(load<f32>(p), -d))
      else if (d < load<f32>(p)) store<f32>(p, d)
    }
  }
}

/** Counts a side of an outline at the rows it crosses: +1 downwards, −1 upwards, from there to the right. */
export function crossRows(turns: usize, w: i32, h: i32, x0: f32, y0: f32, x1: f32, y1: f32): void {
  if (y0 == y1) return
  const down = y1 > y0
  const top = down ? y0 : y1
  const bottom = down ? y1 : y0
  const slope = (x1 - x0) / (y1 - y0)
  const first = max(<i32>ceil<f32>(top - 0.5), 0)
  const last = min(<i32>ceil<f32>(bottom - 0.5), h)
  for (let y = first; y < last; y++) {
    const x = max(<i32>ceil<f32>(x0 + (<f32>y + 0.5 - y0) * slope - 0.5), 0)
    if (x >= w) continue
    const p = turns + <usize>(y * w + x) * 4
    store<i32>(p, load<i32>(p) + (down ? 1 : -1))
  }
}

/** Distances inside an outline are below zero: where the sides crossed so far don't cancel out. */
export function signInside(turns: usize, distance: usize, w: i32, h: i32): void {
  for (let y = 0; y < h; y++) {
    let sum = 0
    for (let i = <usize>(y * w) * 4, end = i + <usize>w * 4; i < end; i += 4) {
      sum += load<i32>(turns + i)
      if (sum != 0) store<f32>(distance + i, -load<f32>(distance + i))
    }
  }
}

/**
 * Distances to a turned rectangle with round corners (`round` 1 … an ellipse, to first order).
 * @param hx half its width; (cos, sin) its direction; `corner` the radius of its corners
 */
export function boxDistance(
  distance: usize,
  w: i32,
  h: i32,
  cx: f32,
  cy: f32,
  hx: f32,
  hy: f32,
  cos: f32,
  sin: f32,
  corner: f32,
  round: i32,
): void {
  const zero = f32x4.splat(0)
  const along = f32x4.splat(cos)
  const across = f32x4.splat(sin)
  const inner = f32x4.splat(corner - hx)
  const innerDown = f32x4.splat(corner - hy)
  const perX = f32x4.splat(<f32>1 / hx)
  const perY = f32x4.splat(<f32>1 / hy)
  const small = f32x4.splat(1e-9)
  const middle = f32x4.splat(-min(hx, hy))
  for (let y = 0; y < h; y++) {
    const dy = f32x4.splat(<f32>y + 0.5 - cy)
    let dx = f32x4(<f32>0.5 - cx, <f32>1.5 - cx, <f32>2.5 - cx, <f32>3.5 - cx)
    const row = distance + <usize>(y * w) * 4
    for (let x = 0; x < w; x += 4) {
      const u = f32x4.add(f32x4.mul(dx, along), f32x4.mul(dy, across))
      const v = f32x4.sub(f32x4.mul(dy, along), f32x4.mul(dx, across))
      let d: v128
      if (round != 0) {
        const a = f32x4.mul(u, perX)
        const b = f32x4.mul(v, perY)
        const far = f32x4.sqrt(f32x4.add(f32x4.mul(a, a), f32x4.mul(b, b)))
        const ax = f32x4.mul(a, perX)
        const by = f32x4.mul(b, perY)
        const slope = f32x4.sqrt(f32x4.add(f32x4.mul(ax, ax), f32x4.mul(by, by)))
        const out = f32x4.div(f32x4.mul(far, f32x4.sub(far, f32x4.splat(1))), f32x4.pmax(slope, small))
        d = v128.bitselect(out, middle, f32x4.gt(slope, small))
      } else {
        const qx = f32x4.add(f32x4.abs(u), inner)
        const qy = f32x4.add(f32x4.abs(v), innerDown)
        const ox = f32x4.pmax(qx, zero)
        const oy = f32x4.pmax(qy, zero)
        const out = f32x4.sqrt(f32x4.add(f32x4.mul(ox, ox), f32x4.mul(oy, oy)))
        d = f32x4.sub(f32x4.add(out, f32x4.pmin(f32x4.pmax(qx, qy), zero)), f32x4.splat(corner))
      }
      storeFour(row + <usize>x * 4, d, w - x)
      dx = f32x4.add(dx, f32x4.splat(4))
    }
  }
}

/** Writes four values, or as many as are left of a row. */
// @ts-ignore: decorator
@inline
function storeFour(p: usize, value: v128, left: i32): void {
  if (left >= 4) {
    v128.store(p, value)
    return
  }
  store<f32>(p, f32x4.extract_lane(value, 0))
  if (left > 1) store<f32>(p, f32x4.extract_lane(value, 1), 4)
  if (left > 2) store<f32>(p, f32x4.extract_lane(value, 2), 8)
}

/** Distances along a direction from a point: of a straight gradient. `round` 1 from the point outwards, 2 both ways. */
export function slopeDistance(
  distance: usize,
  w: i32,
  h: i32,
  x0: f32,
  y0: f32,
  dx: f32,
  dy: f32,
  round: i32,
): void {
  for (let y = 0; y < h; y++) {
    const py = f32x4.splat(<f32>y + 0.5 - y0)
    let px = f32x4(<f32>0.5 - x0, <f32>1.5 - x0, <f32>2.5 - x0, <f32>3.5 - x0)
    const row = distance + <usize>(y * w) * 4
    for (let x = 0; x < w; x += 4) {
      const along = f32x4.add(f32x4.mul(px, f32x4.splat(dx)), f32x4.mul(py, f32x4.splat(dy)))
      const d =
        round == 1
          ? f32x4.sqrt(f32x4.add(f32x4.mul(px, px), f32x4.mul(py, py)))
          : round == 2
            ? f32x4.abs(along)
            : along
      storeFour(row + <usize>x * 4, d, w - x)
      px = f32x4.add(px, f32x4.splat(4))
    }
  }
}
