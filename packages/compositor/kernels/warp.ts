// Pictures bent by a grid: each corner of its cells says where in the source it looks.
import { factor, heldInt, layOver, layTwoOver, sample, sampleAlong, unit } from './pixel'

/**
 * Draws `src` (sw × sh) over `dst` (dw × dh). `grid` holds for each corner of cells of `cell` pixels, row by row,
 * three floats: source x, source y, and how bright (0…1); between corners they go straight. Where the source is left,
 * nothing is drawn; with `wrap` the edge pixel repeats instead. Works on rows y0 … y1.
 */
export function drawMesh(
  src: usize,
  sw: i32,
  sh: i32,
  dst: usize,
  dw: i32,
  dh: i32,
  grid: usize,
  cell: i32,
  columns: i32,
  opacity: f32,
  wrap: i32,
  y0: i32,
  y1: i32,
): void {
  const lastX = <f32>(sw - 1)
  const lastY = <f32>(sh - 1)
  const stride = sw * 4
  const over: f32 = <f32>1 / <f32>cell
  const perPixel: f64 = 4294967296.0 / <f64>cell
  for (let y = y0; y < y1; y++) {
    const gy = y / cell
    const ty = (<f32>(y - gy * cell) + 0.5) / <f32>cell
    const rowA = grid + <usize>(gy * columns) * 12
    const rowB = rowA + <usize>columns * 12
    for (let gx = 0; gx * cell < dw; gx++) {
      const p = rowA + <usize>gx * 12
      const q = rowB + <usize>gx * 12
      // Straight down between the cell's upper and lower corners, then across.
      const lx = load<f32>(p) + (load<f32>(q) - load<f32>(p)) * ty
      const ly = load<f32>(p + 4) + (load<f32>(q + 4) - load<f32>(p + 4)) * ty
      const lb = load<f32>(p + 8) + (load<f32>(q + 8) - load<f32>(p + 8)) * ty
      const rx = load<f32>(p + 12) + (load<f32>(q + 12) - load<f32>(p + 12)) * ty
      const ry = load<f32>(p + 16) + (load<f32>(q + 16) - load<f32>(p + 16)) * ty
      const rb = load<f32>(p + 20) + (load<f32>(q + 20) - load<f32>(p + 20)) * ty
      const end = min((gx + 1) * cell, dw)
      const du = (rx - lx) * over
      const dv = (ry - ly) * over
      const u0 = lx + du * 0.5 - 0.5
      const v0 = ly + dv * 0.5 - 0.5
      const last = <f32>(end - 1 - gx * cell)
      const u1 = u0 + du * last
      const v1 = v0 + dv * last
      const out = dst + <usize>(y * dw + gx * cell) * 4
      const inside = min(u0, u1) >= 0 && max(u0, u1) < lastX && min(v0, v1) >= 0 && max(v0, v1) < lastY
      if (inside && opacity >= 1) {
        // All of this stretch lies in the picture: straight through, in fixed point.
        let u = <i64>(<f64>u0 * 4294967296.0)
        let v = <i64>(<f64>v0 * 4294967296.0)
        const stepU = heldInt(<i64>(<f64>(rx - lx) * perPixel))
        const stepV = heldInt(<i64>(<f64>(ry - ly) * perPixel))
        const dim = heldInt(lb < 1 || rb < 1 ? 1 : 0) != 0
        // Brightness with 8 more bits than it is used with.
        const first = <i32>(unit(lb) * <f32>8388352)
        const stepB = <i32>heldInt((<i32>(unit(rb) * <f32>8388352) - first) / cell)
        let bright = first + stepB / 2
        const n = end - gx * cell
        let k = 0
        for (; k + 2 <= n; k += 2) {
          let s = sampleAlong(src, stride, u, v, stepU, stepV)
          if (dim) {
            s = i16x8.q15mulr_sat_s(s, v128.shuffle<i64>(shade(bright), shade(bright + stepB), 0, 2))
            bright += stepB * 2
          }
          layTwoOver(out + <usize>k * 4, s)
          u += stepU * 2
          v += stepV * 2
        }
        if (k < n) {
          const at = src + <usize>(<i32>(v >> 32) * stride + <i32>(u >> 32) * 4)
          let s = sample(at, stride, <i32>((u >> 17) & 0x7fff), <i32>((v >> 17) & 0x7fff))
          if (dim) s = i16x8.q15mulr_sat_s(s, shade(bright))
          layOver(out + <usize>k * 4, s)
        }
        continue
      }
      // Nothing of the picture is near: the most common case beyond its edges.
      if (!wrap && (max(u0, u1) < -1 || min(u0, u1) > lastX + 1 || max(v0, v1) < -1 || min(v0, v1) > lastY + 1))
        continue
      for (let x = gx * cell; x < end; x++) {
        const k = <f32>(x - gx * cell)
        const u = u0 + du * k
        const v = v0 + dv * k
        let cover = opacity
        if (!wrap) {
          cover *= min<f32>(max<f32>(u + 1, 0), 1) * min<f32>(max<f32>(lastX + 1 - u, 0), 1)
          cover *= min<f32>(max<f32>(v + 1, 0), 1) * min<f32>(max<f32>(lastY + 1 - v, 0), 1)
          if (cover <= 0) continue
        }
        const su = min<f32>(max<f32>(u, 0), lastX)
        const sv = min<f32>(max<f32>(v, 0), lastY)
        const iu = <i32>su
        const iv = <i32>sv
        let s = sample(
          src + <usize>(iv * stride + iu * 4),
          iv + 1 < sh ? <usize>stride : <usize>0,
          <i32>((su - <f32>iu) * 32767),
          <i32>((sv - <f32>iv) * 32767),
        )
        if (cover < 1) s = i16x8.q15mulr_sat_s(s, factor(cover))
        const bright = lb + (rb - lb) * (k + 0.5) * over
        if (bright < 1) s = i16x8.q15mulr_sat_s(s, shade(<i32>(unit(bright) * <f32>8388352)))
        layOver(out + <usize>(x - gx * cell) * 4, s)
      }
    }
  }
}

/** A factor of 0…32767 · 256 that darkens colours and leaves alpha. */
// @ts-ignore: decorator
@inline
function shade(bright: i32): v128 {
  return v128.bitselect(i16x8.splat(32767), i16x8.splat(<i16>(bright >> 8)), i16x8(0, 0, 0, -1, 0, 0, 0, -1))
}

/** Copies a picture with its red moved by (rx, ry) and its blue by (bx, by) pixels; edges repeat. */
export function shiftColours(src: usize, dst: usize, w: i32, h: i32, rx: i32, ry: i32, bx: i32, by: i32): void {
  // Between these columns neither colour comes from beyond an edge: four pixels at once.
  const from = min(max(max(rx, bx), 0), w)
  const to = max(w + min(min(rx, bx), 0), from)
  for (let y = 0; y < h; y++) {
    const rowR = src + <usize>(min(max(y - ry, 0), h - 1) * w) * 4
    const rowB = src + <usize>(min(max(y - by, 0), h - 1) * w) * 4
    const row = src + <usize>(y * w) * 4
    const out = dst + <usize>(y * w) * 4
    for (let x = 0; x < from; x++) shiftOne(row, rowR, rowB, out, x, w, rx, bx)
    let x = from
    for (; x + 4 <= to; x += 4) {
      const own = v128.load(row + <usize>x * 4)
      const red = v128.load(rowR + <usize>(x - rx) * 4)
      const blue = v128.load(rowB + <usize>(x - bx) * 4)
      const mixed = v128.bitselect(red, v128.bitselect(blue, own, i32x4.splat(0x00ff0000)), i32x4.splat(0x000000ff))
      const alpha = v128.shuffle<u8>(own, own, 3, 3, 3, 3, 7, 7, 7, 7, 11, 11, 11, 11, 15, 15, 15, 15)
      v128.store(out + <usize>x * 4, i8x16.min_u(mixed, alpha))
    }
    for (; x < w; x++) shiftOne(row, rowR, rowB, out, x, w, rx, bx)
  }
}

// @ts-ignore: decorator
@inline
function shiftOne(row: usize, rowR: usize, rowB: usize, out: usize, x: i32, w: i32, rx: i32, bx: i32): void {
  const o = out + <usize>x * 4
  const p = row + <usize>x * 4
  const a = load<u8>(p + 3)
  // Premultiplied colour never exceeds its pixel's alpha.
  store<u8>(o, min(load<u8>(rowR + <usize>min(max(x - rx, 0), w - 1) * 4), a))
  store<u8>(o + 1, load<u8>(p + 1))
  store<u8>(o + 2, min(load<u8>(rowB + <usize>min(max(x - bx, 0), w - 1) * 4 + 2), a))
  store<u8>(o + 3, a)
}

/** Moves each row sideways by its own number of pixels (i32 a row); what leaves at one side comes back at the other. */
export function shiftRows(src: usize, dst: usize, w: i32, h: i32, offsets: usize): void {
  for (let y = 0; y < h; y++) {
    let by = load<i32>(offsets + <usize>y * 4) % w
    if (by < 0) by += w
    const row = src + <usize>(y * w) * 4
    const out = dst + <usize>(y * w) * 4
    memory.copy(out + <usize>by * 4, row, <usize>(w - by) * 4)
    memory.copy(out, row + <usize>(w - by) * 4, <usize>by * 4)
  }
}

/** Fills cells of `size` pixels with the colour at their middle. */
export function pixelate(src: usize, dst: usize, w: i32, h: i32, size: i32): void {
  for (let y = 0; y < h; y++) {
    const out = dst + <usize>(y * w) * 4
    // Rows of one cell are alike.
    if (y % size != 0) {
      memory.copy(out, out - <usize>w * 4, <usize>w * 4)
      continue
    }
    const row = src + <usize>(min(y + size / 2, h - 1) * w) * 4
    for (let left = 0; left < w; left += size) {
      const colour = load<u32>(row + <usize>min(left + size / 2, w - 1) * 4)
      const end = min(left + size, w)
      for (let x = left; x < end; x++) store<u32>(out + <usize>x * 4, colour)
    }
  }
}
