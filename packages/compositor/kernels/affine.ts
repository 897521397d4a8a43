// Pictures turned or skewed: bilinear sampling of premultiplied RGBA with edges smoothed by how much of a pixel the
// picture covers. The caller halves the source until at most two of its pixels fall on one of the output's.

import { factor, held, heldInt, layOver, layTwoOver, sample, sampleAlong, unit } from './pixel'

/**
 * Draws `src` (sw × sh) over `dst` within columns x0…x1 and rows y0…y1. `ia … ifv` map output pixel centres to source
 * pixels. `perU` and `perV` are output pixels per source pixel across the picture's edges; `sizeU` and `sizeV` the
 * picture's true size in source pixels; `opacity` 0 to 1.
 */
export function drawAffine(
  src: usize,
  sw: i32,
  sh: i32,
  dst: usize,
  dstWidth: i32,
  x0: i32,
  y0: i32,
  x1: i32,
  y1: i32,
  ia: f64,
  ib: f64,
  ic: f64,
  id: f64,
  ie: f64,
  ifv: f64,
  perU: f32,
  perV: f32,
  sizeU: f32,
  sizeV: f32,
  opacity: f32,
): void {
  const stride = sw * 4
  const full = held(factor(opacity))
  const whole = opacity >= 1
  // Farther in than this from the picture's edges nothing is smoothed, and all four neighbours are there.
  const marginU: f64 = max<f64>(1 / <f64>perU, 0.5)
  const marginV: f64 = max<f64>(1 / <f64>perV, 0.5)
  const endU: f64 = min<f64>(<f64>sizeU - marginU, <f64>sw - 0.5)
  const endV: f64 = min<f64>(<f64>sizeV - marginV, <f64>sh - 0.5)
  const stepU = heldInt(<i64>(ia * 4294967296.0))
  const stepV = heldInt(<i64>(ib * 4294967296.0))
  for (let y = y0; y < y1; y++) {
    const cy = <f64>y + 0.5
    const rowU = ic * cy + ie
    const rowV = id * cy + ifv
    const row = dst + <usize>(y * dstWidth) * 4
    // The stretch of this row that lies well inside: where both coordinates do.
    let from: f64 = <f64>x0
    // A picture thinner than its smoothed edges has no inside at all.
    let to: f64 = endU > marginU && endV > marginV ? <f64>x1 : from
    if (ia != 0) {
      const a = (marginU - rowU) / ia - 0.5
      const b = (endU - rowU) / ia - 0.5
      from = max<f64>(from, min(a, b))
      to = min<f64>(to, max(a, b))
    } else if (rowU <= marginU || rowU >= endU) to = from
    if (ib != 0) {
      const a = (marginV - rowV) / ib - 0.5
      const b = (endV - rowV) / ib - 0.5
      from = max<f64>(from, min(a, b))
      to = min<f64>(to, max(a, b))
    } else if (rowV <= marginV || rowV >= endV) to = from
    let xa = min(max(<i32>ceil<f64>(from) + 1, x0), x1)
    let xb = min(max(<i32>floor<f64>(to) - 1, xa), x1)
    for (let x = x0; x < xa; x++) edgePixel(src, sw, sh, row, x, ia, ib, rowU, rowV, perU, perV, sizeU, sizeV, opacity)
    if (xb > xa) {
      const cx = <f64>xa + 0.5
      let u = <i64>((ia * cx + rowU - 0.5) * 4294967296.0)
      let v = <i64>((ib * cx + rowV - 0.5) * 4294967296.0)
      let x = xa
      for (; x + 2 <= xb; x += 2) {
        let s = sampleAlong(src, stride, u, v, stepU, stepV)
        if (!whole) s = i16x8.q15mulr_sat_s(s, full)
        layTwoOver(row + <usize>x * 4, s)
        u += stepU * 2
        v += stepV * 2
      }
      if (x < xb) {
        const iu = <i32>(u >> 32)
        const iv = <i32>(v >> 32)
        const fu = <i32>((u >> 17) & 0x7fff)
        const fv = <i32>((v >> 17) & 0x7fff)
        let s = sample(src + <usize>(iv * stride + iu * 4), stride, fu, fv)
        if (!whole) s = i16x8.q15mulr_sat_s(s, full)
        layOver(row + <usize>x * 4, s)
      }
    }
    for (let x = max(xa, xb); x < x1; x++)
      edgePixel(src, sw, sh, row, x, ia, ib, rowU, rowV, perU, perV, sizeU, sizeV, opacity)
  }
}

/** A pixel at or beyond the picture's edge: how much of it the picture covers decides. */
function edgePixel(
  src: usize,
  sw: i32,
  sh: i32,
  row: usize,
  x: i32,
  ia: f64,
  ib: f64,
  rowU: f64,
  rowV: f64,
  perU: f32,
  perV: f32,
  sizeU: f32,
  sizeV: f32,
  opacity: f32,
): void {
  const cx = <f64>x + 0.5
  const u = <f32>(ia * cx + rowU)
  const v = <f32>(ib * cx + rowV)
  const across = unit(u * perU + 0.5) * unit((sizeU - u) * perU + 0.5)
  if (across <= 0) return
  const cover = across * unit(v * perV + 0.5) * unit((sizeV - v) * perV + 0.5) * opacity
  if (cover <= 0) return
  const su = min<f32>(max<f32>(u - 0.5, 0), <f32>(sw - 1))
  const sv = min<f32>(max<f32>(v - 0.5, 0), <f32>(sh - 1))
  const iu = <i32>su
  const iv = <i32>sv
  const stride = sw * 4
  const s = sample(
    src + <usize>(iv * stride + iu * 4),
    iv + 1 < sh ? <usize>stride : <usize>0,
    <i32>((su - <f32>iu) * 32767),
    <i32>((sv - <f32>iv) * 32767),
  )
  layOver(row + <usize>x * 4, i16x8.q15mulr_sat_s(s, factor(cover)))
}

/**
 * Half size by averaging squares of four; an odd last column or row is repeated. `dst` holds ⌈sw/2⌉ × ⌈sh/2⌉ pixels.
 */
export function halve(src: usize, sw: i32, sh: i32, dst: usize): void {
  const dw = (sw + 1) >> 1
  const dh = (sh + 1) >> 1
  const two = i16x8.splat(2)
  for (let y = 0; y < dh; y++) {
    const top = src + <usize>(y * 2 * sw) * 4
    const bottom = src + <usize>(min(y * 2 + 1, sh - 1) * sw) * 4
    const out = dst + <usize>(y * dw) * 4
    let x = 0
    // Two pixels at a time: the sums of neighbours lie side by side and are brought together by swapping halves.
    for (const even = (sw >> 2) << 1; x < even; x += 2) {
      const t = v128.load(top + <usize>x * 8)
      const b = v128.load(bottom + <usize>x * 8)
      const low = i16x8.add(i16x8.extend_low_i8x16_u(t), i16x8.extend_low_i8x16_u(b))
      const high = i16x8.add(i16x8.extend_high_i8x16_u(t), i16x8.extend_high_i8x16_u(b))
      const first = v128.shuffle<i64>(low, high, 0, 2)
      const second = v128.shuffle<i64>(low, high, 1, 3)
      const words = i16x8.shr_u(i16x8.add(i16x8.add(first, second), two), 2)
      v128.store64_lane(out + <usize>x * 4, i8x16.narrow_i16x8_u(words, words), 0)
    }
    for (; x < dw; x++) {
      const l = <usize>(x * 2) * 4
      const r = <usize>min(x * 2 + 1, sw - 1) * 4
      const sum = i16x8.add(
        i16x8.add(
          i16x8.extend_low_i8x16_u(v128.load32_zero(top + l)),
          i16x8.extend_low_i8x16_u(v128.load32_zero(top + r)),
        ),
        i16x8.add(
          i16x8.extend_low_i8x16_u(v128.load32_zero(bottom + l)),
          i16x8.extend_low_i8x16_u(v128.load32_zero(bottom + r)),
        ),
      )
      const words = i16x8.shr_u(i16x8.add(sum, two), 2)
      v128.store32_lane(out + x * 4, i8x16.narrow_i16x8_u(words, words), 0)
    }
  }
}
