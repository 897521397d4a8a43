// Masks: signed distances to shapes (floats, below zero inside), coverage made of them (a byte a pixel), and what is
// done by coverage.
import { loadPixel, storePixel, unit } from './pixel'

/** Every distance as far as can be. */
export function farAway(distance: usize, n: i32, value: f32): void {
  const all = f32x4.splat(value)
  let p = distance
  const end = distance + <usize>n * 4
  for (; p + 16 <= end; p += 16) v128.store(p, all)
  for (; p < end; p += 4) store<f32>(p, value)
}

/**
 * Nears distances to those to a line from (x0, y0) to (x1, y1) less `width`, within `reach` pixels of it.
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
      if (d < load<f32>(p)) store<f32>(p, d)
    }
  }
}

/** Takes a painted line out again: distances are at least as far as the line is wide. */
export function awayFromLine(
  distance: usize,
  w: i32,
  h: i32,
  x0: f32,
  y0: f32,
  x1: f32,
  y1: f32,
  width: f32,
  reach: f32,
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
      const d = width - sqrt<f32>(ex * ex + ey * ey)
      const p = distance + <usize>(y * w + x) * 4
      if (d > load<f32>(p)) store<f32>(p, d)
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
  for (let y = 0; y < h; y++)
    for (let x = 0; x < w; x++) {
      const dx = <f32>x + 0.5 - cx
      const dy = <f32>y + 0.5 - cy
      const u = dx * cos + dy * sin
      const v = dy * cos - dx * sin
      let d: f32
      if (round != 0) {
        const a = u / hx
        const b = v / hy
        const far = sqrt<f32>(a * a + b * b)
        const slope = sqrt<f32>((a / hx) * (a / hx) + (b / hy) * (b / hy))
        d = slope > 1e-9 ? (far * (far - 1)) / slope : -min(hx, hy)
      } else {
        const qx = abs<f32>(u) - hx + corner
        const qy = abs<f32>(v) - hy + corner
        const ox = max<f32>(qx, 0)
        const oy = max<f32>(qy, 0)
        d = sqrt<f32>(ox * ox + oy * oy) + min<f32>(max(qx, qy), 0) - corner
      }
      store<f32>(distance + <usize>(y * w + x) * 4, d)
    }
}

/** Distances along a direction from a point: of a straight gradient. `round` 1 from the point outwards, 2 both ways. */
export function slopeDistance(distance: usize, w: i32, h: i32, x0: f32, y0: f32, dx: f32, dy: f32, round: i32): void {
  for (let y = 0; y < h; y++)
    for (let x = 0; x < w; x++) {
      const px = <f32>x + 0.5 - x0
      const py = <f32>y + 0.5 - y0
      const along = px * dx + py * dy
      const d: f32 = round == 1 ? sqrt<f32>(px * px + py * py) : round == 2 ? abs<f32>(along) : along
      store<f32>(distance + <usize>(y * w + x) * 4, d)
    }
}

/**
 * Coverage of distances: all of it `inner` pixels inside the edge, none `outer` pixels outside, with a smooth way
 * between; at least a pixel wide, so that edges are not jagged.
 * @param opacity 0…1; `straight` 1 goes evenly, as gradients do
 */
export function cover(
  distance: usize,
  plane: usize,
  n: i32,
  inner: f32,
  outer: f32,
  opacity: f32,
  invert: i32,
  straight: i32,
): void {
  const wide = max<f32>(inner + outer, 1)
  const from: f32 = (outer - inner + wide) / 2
  for (let i: usize = 0, end = <usize>n; i < end; i++) {
    const t = unit((from - load<f32>(distance + i * 4)) / wide)
    const k: f32 = straight != 0 ? t : t * t * (3 - 2 * t)
    store<u8>(plane + i, <u8>nearest<f32>((invert != 0 ? 1 - k : k) * opacity * 255))
  }
}

/** Brings another coverage into one: 0 adds, 1 takes away, 2 keeps what both cover. */
export function joinCover(plane: usize, other: usize, n: i32, mode: i32): void {
  for (let i: usize = 0, end = <usize>n; i < end; i++) {
    const a = <u32>load<u8>(plane + i)
    const b = <u32>load<u8>(other + i)
    const v = mode == 0 ? max(a, b) : (a * (mode == 1 ? 255 - b : b) + 127) / 255
    store<u8>(plane + i, <u8>v)
  }
}

/** All that was not covered, and the other way round. */
export function invertCover(plane: usize, n: i32): void {
  for (let i: usize = 0, end = <usize>n; i < end; i++) store<u8>(plane + i, 255 - load<u8>(plane + i))
}

/** From one picture to another by coverage times `weight` (0…1). */
export function mixByCover(before: usize, after: usize, dst: usize, plane: usize, n: i32, weight: f32): void {
  const per = weight / 255
  for (let i: usize = 0, end = <usize>n; i < end; i++) {
    const t = <f32>load<u8>(plane + i) * per
    const o = i * 4
    if (t == 0) {
      store<u32>(dst + o, load<u32>(before + o))
      continue
    }
    const a = loadPixel(before + o)
    storePixel(dst + o, f32x4.add(a, f32x4.mul(f32x4.sub(loadPixel(after + o), a), f32x4.splat(t))))
  }
}

/** Pixels are as opaque as they are covered. */
export function keepCovered(pixels: usize, plane: usize, n: i32): void {
  for (let i: usize = 0, end = <usize>n; i < end; i++) {
    const c = load<u8>(plane + i)
    const p = pixels + i * 4
    if (c == 255) continue
    if (c == 0) store<u32>(p, 0)
    else storePixel(p, f32x4.mul(loadPixel(p), f32x4.splat(<f32>c / 255)))
  }
}

/** The least (`most` 0) or the most (1) within `radius` pixels along rows, or columns with `down` 1. */
export function spreadCover(src: usize, dst: usize, w: i32, h: i32, radius: i32, most: i32, down: i32): void {
  for (let y = 0; y < h; y++)
    for (let x = 0; x < w; x++) {
      const c = down != 0 ? y : x
      const last = (down != 0 ? h : w) - 1
      let found: i32 = most != 0 ? 0 : 255
      for (let k = max(c - radius, 0), end = min(c + radius, last); k <= end; k++) {
        const v = <i32>load<u8>(src + <usize>(down != 0 ? k * w + x : y * w + k))
        found = most != 0 ? max(found, v) : min(found, v)
      }
      store<u8>(dst + <usize>(y * w + x), <u8>found)
    }
}

/** The mean within `radius` pixels along rows, or columns with `down` 1. */
export function softenCover(src: usize, dst: usize, w: i32, h: i32, radius: i32, down: i32): void {
  const n = down != 0 ? h : w
  const lines = down != 0 ? w : h
  const step: usize = down != 0 ? <usize>w : 1
  const next: usize = down != 0 ? 1 : <usize>w
  const width = 2 * radius + 1
  for (let k = 0; k < lines; k++) {
    const from = src + <usize>k * next
    const to = dst + <usize>k * next
    const first = <i32>load<u8>(from)
    const last = <i32>load<u8>(from + <usize>(n - 1) * step)
    let sum = first * (radius + 1)
    for (let i = 1; i <= radius; i++) sum += i < n ? <i32>load<u8>(from + <usize>i * step) : last
    for (let i = 0; i < n; i++) {
      store<u8>(to + <usize>i * step, <u8>((sum + radius) / width))
      const ahead = i + radius + 1
      const behind = i - radius
      sum += ahead < n ? <i32>load<u8>(from + <usize>ahead * step) : last
      sum -= behind > 0 ? <i32>load<u8>(from + <usize>behind * step) : first
    }
  }
}

/** Coverage stretched so that `low` becomes nothing and `high` all (0…255). */
export function stretchCover(plane: usize, n: i32, low: f32, high: f32): void {
  const per: f32 = 255 / max<f32>(high - low, 1)
  for (let i: usize = 0, end = <usize>n; i < end; i++) {
    const v = (<f32>load<u8>(plane + i) - low) * per
    store<u8>(plane + i, <u8>nearest<f32>(min<f32>(max<f32>(v, 0), 255)))
  }
}
