// Pictures bent by a grid: each corner of its cells says where in the source it looks.
import { factor, layOver, sample, unit } from './pixel'

/**
 * Draws `src` (sw × sh) over `dst` (dw × dh). `grid` holds for each corner of cells of `cell` pixels, row by row,
 * three floats: source x, source y, and how bright (0…1); between corners they go straight. Where the source is left,
 * nothing is drawn; with `wrap` the edge pixel repeats instead.
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
): void {
  const lastX = <f32>(sw - 1)
  const lastY = <f32>(sh - 1)
  const stride = sw * 4
  for (let y = 0; y < dh; y++) {
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
      const over: f32 = <f32>1 / <f32>cell
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
        const stepU = <i64>(<f64>du * 4294967296.0)
        const stepV = <i64>(<f64>dv * 4294967296.0)
        const dim = lb < 1 || rb < 1
        let bright = lb + (rb - lb) * over * 0.5
        const stepB = (rb - lb) * over
        const n = end - gx * cell
        for (let k = 0; k < n; k++) {
          const iu = <i32>(u >> 32)
          const iv = <i32>(v >> 32)
          let s = sample(src + <usize>(iv * stride + iu * 4), stride, <i32>((u >> 17) & 0x7fff), <i32>((v >> 17) & 0x7fff)) // prettier-ignore
          if (dim) {
            s = i16x8.q15mulr_sat_s(s, i16x8.replace_lane(factor(unit(bright)), 3, 32767))
            bright += stepB
          }
          layOver(out + <usize>k * 4, s)
          u += stepU
          v += stepV
        }
        continue
      }
      // Nothing of the picture is near: the most common case beyond its edges.
      if (!wrap && (max(u0, u1) < -1 || min(u0, u1) > lastX + 1 || max(v0, v1) < -1 || min(v0, v1) > lastY + 1)) continue
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
        let s = sample(src + <usize>(iv * stride + iu * 4), iv + 1 < sh ? stride : 0, <i32>((su - <f32>iu) * 32767), <i32>((sv - <f32>iv) * 32767)) // prettier-ignore
        if (cover < 1) s = i16x8.q15mulr_sat_s(s, factor(cover))
        const bright = lb + (rb - lb) * (k + 0.5) * over
        if (bright < 1) s = i16x8.q15mulr_sat_s(s, i16x8.replace_lane(factor(max<f32>(bright, 0)), 3, 32767))
        layOver(out + <usize>(x - gx * cell) * 4, s)
      }
    }
  }
}

/** Copies a picture with its red moved by (rx, ry) and its blue by (bx, by) pixels; edges repeat. */
export function shiftColours(src: usize, dst: usize, w: i32, h: i32, rx: i32, ry: i32, bx: i32, by: i32): void {
  for (let y = 0; y < h; y++) {
    const rowR = src + <usize>(min(max(y - ry, 0), h - 1) * w) * 4
    const rowB = src + <usize>(min(max(y - by, 0), h - 1) * w) * 4
    const row = src + <usize>(y * w) * 4
    const out = dst + <usize>(y * w) * 4
    for (let x = 0; x < w; x++) {
      const o = out + <usize>x * 4
      const p = row + <usize>x * 4
      const a = load<u8>(p + 3)
      // Premultiplied colour never exceeds its pixel's alpha.
      store<u8>(o, min(load<u8>(rowR + <usize>min(max(x - rx, 0), w - 1) * 4), a))
      store<u8>(o + 1, load<u8>(p + 1))
      store<u8>(o + 2, min(load<u8>(rowB + <usize>min(max(x - bx, 0), w - 1) * 4 + 2), a))
      store<u8>(o + 3, a)
    }
  }
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
    const cy = min((y / size) * size + size / 2, h - 1)
    const row = src + <usize>(cy * w) * 4
    const out = dst + <usize>(y * w) * 4
    for (let x = 0; x < w; x++)
      store<u32>(out + <usize>x * 4, load<u32>(row + <usize>min((x / size) * size + size / 2, w - 1) * 4))
  }
}
