// Separable resampling of one plane of a film, 8 bits a sample, with weight tables made by the caller: what resample.ts
// does with four channels at once. Weights are 14-bit, a multiple of four taps per output, those too many being 0.

import { held } from './pixel'

/**
 * First pass, along rows: `rows` rows of `src` to `width` samples of i16 each, with five more bits. Outputs are made
 * four at a time, from sixteen neighbouring samples in which those that each of them takes are looked up.
 * @param starts where the sixteen begin for each four outputs (i32), at the first output that they are for
 * @param weights `taps` i16 per output
 * @param places for each four outputs and each four of their taps which of the sixteen they are (16 bytes)
 */
export function resamplePlaneColumns(
  src: usize,
  srcStride: i32,
  rows: i32,
  dst: usize,
  width: i32,
  starts: usize,
  weights: usize,
  taps: i32,
  places: usize,
): void {
  const half = held(i32x4.splat(1 << 8))
  const step = <usize>taps * 2
  for (let y = 0; y < rows; y++) {
    const line = src + <usize>(y * srcStride)
    const out = dst + <usize>(y * width) * 2
    let w = weights
    let at = places
    if (taps == 4)
      for (let x = 0; x < width; x += 4, w += 32, at += 16) {
        const sixteen = v128.load(line + <usize>load<i32>(starts + <usize>x * 4))
        const taken = i8x16.swizzle(sixteen, v128.load(at))
        const a = i32x4.dot_i16x8_s(i16x8.extend_low_i8x16_u(taken), v128.load(w))
        const b = i32x4.dot_i16x8_s(i16x8.extend_high_i8x16_u(taken), v128.load(w, 16))
        putFour(out + <usize>x * 2, a, b, half, width - x)
      }
    else
      for (let x = 0; x < width; x += 4, w += step * 4) {
        const sixteen = v128.load(line + <usize>load<i32>(starts + <usize>x * 4))
        let a = i32x4.splat(0)
        let b = a
        for (let t = 0; t < taps; t += 4, at += 16) {
          const taken = i8x16.swizzle(sixteen, v128.load(at))
          const own = w + <usize>t * 2
          a = i32x4.add(a, i32x4.dot_i16x8_s(i16x8.extend_low_i8x16_u(taken), fourOfTwo(own, step)))
          b = i32x4.add(b, i32x4.dot_i16x8_s(i16x8.extend_high_i8x16_u(taken), fourOfTwo(own + step * 2, step)))
        }
        putFour(out + <usize>x * 2, a, b, half, width - x)
      }
  }
}

/** Four weights of an output, and as many of the next. */
// @ts-ignore: decorator
@inline
function fourOfTwo(at: usize, step: usize): v128 {
  return v128.load64_lane(at + step, v128.load64_zero(at), 1)
}

/** Writes four outputs, or as many as are left, from two parts of each: what follows may be another thread's. */
// @ts-ignore: decorator
@inline
function putFour(out: usize, a: v128, b: v128, half: v128, left: i32): void {
  const sum = i32x4.add(v128.shuffle<i32>(a, b, 0, 2, 4, 6), v128.shuffle<i32>(a, b, 1, 3, 5, 7))
  const words = i32x4.shr_s(i32x4.add(sum, half), 9)
  const narrow = i16x8.narrow_i32x4_s(words, words)
  if (left >= 4) v128.store64_lane(out, narrow, 0)
  else {
    store<i16>(out, i16x8.extract_lane_s(narrow, 0))
    if (left > 1) store<i16>(out, i16x8.extract_lane_s(narrow, 1), 2)
    if (left > 2) store<i16>(out, i16x8.extract_lane_s(narrow, 2), 4)
  }
}

/**
 * Second pass over output rows y0 … y1, each to its place in `dst`, a plane of `width` samples a row.
 * @param rows address of the first pass's rows, of which row `first` of the source is the first; `stride` bytes apart
 * @param starts first source row per output row (i32)
 * @param weights `taps` i16 per output row
 */
export function resamplePlaneBand(
  rows: usize,
  stride: i32,
  first: i32,
  starts: usize,
  weights: usize,
  taps: i32,
  dst: usize,
  width: i32,
  y0: i32,
  y1: i32,
): void {
  for (let y = y0; y < y1; y++) {
    const from = rows + <usize>((load<i32>(starts + <usize>y * 4) - first) * stride)
    const w = weights + <usize>(y * taps) * 2
    const out = dst + <usize>(y * width)
    if (taps == 4) fourRows(from, <usize>stride, w, out, width)
    else moreRows(from, <usize>stride, w, taps, out, width)
  }
}

/** A row from four. Products are rounded at four more bits than a sample has. */
function fourRows(from: usize, stride: usize, w: usize, out: usize, width: i32): void {
  const w0 = held(v128.load16_splat(w))
  const w1 = held(v128.load16_splat(w, 2))
  const w2 = held(v128.load16_splat(w, 4))
  const w3 = held(v128.load16_splat(w, 6))
  const half = held(i16x8.splat(8))
  for (let x = 0; x < width; x += 8) {
    const p = from + <usize>x * 2
    const near = i16x8.add(
      i16x8.q15mulr_sat_s(v128.load(p + stride), w1),
      i16x8.q15mulr_sat_s(v128.load(p + stride * 2), w2),
    )
    const far = i16x8.add(i16x8.q15mulr_sat_s(v128.load(p), w0), i16x8.q15mulr_sat_s(v128.load(p + stride * 3), w3))
    putEight(out + <usize>x, i16x8.add(i16x8.add(near, far), half), width - x)
  }
}

function moreRows(from: usize, stride: usize, w: usize, taps: i32, out: usize, width: i32): void {
  const half = held(i16x8.splat(8))
  for (let x = 0; x < width; x += 8) {
    let sum = half
    let p = from + <usize>x * 2
    for (let t = 0; t < taps; t++, p += stride)
      sum = i16x8.add(sum, i16x8.q15mulr_sat_s(v128.load(p), v128.load16_splat(w + <usize>t * 2)))
    putEight(out + <usize>x, sum, width - x)
  }
}

/** Writes eight samples, or as many as are left: what follows is the next row's, and may be another thread's. */
// @ts-ignore: decorator
@inline
function putEight(out: usize, sum: v128, left: i32): void {
  const words = i16x8.shr_s(sum, 4)
  const bytes = i8x16.narrow_i16x8_u(words, words)
  if (left >= 8) v128.store64_lane(out, bytes, 0)
  else storeSome(out, bytes, left)
}

/** Writes the first few of eight bytes: what follows belongs to the next row, which another thread may write. */
function storeSome(out: usize, bytes: v128, count: i32): void {
  let rest = i64x2.extract_lane(bytes, 0)
  for (let i = 0; i < count; i++) {
    store<u8>(out + i, <u8>rest)
    rest >>= 8
  }
}
