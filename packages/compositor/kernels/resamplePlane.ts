// Separable resampling of one plane of a film, 8 bits a sample, with weight tables made by the caller: what resample.ts
// does with four channels at once. Weights are 14-bit, a multiple of four taps per output, those too many being 0.

import { held } from './pixel'

/**
 * First pass, along rows: `rows` rows of `src` to `width` samples of i16 each, with five more bits. Outputs are made
 * four at a time, from sixteen neighbouring samples in which those that each of them takes are looked up.
 * @param starts where the sixteen begin for each four outputs (i32), at the first output that they are for
 * @param lanes weights as they are multiplied, i16: for each four outputs and each four of their taps the first two
 * of each output, then its other two
 * @param places for each of the weights which of the sixteen samples it is for (u8)
 */
export function resamplePlaneColumns(
  src: usize,
  srcStride: i32,
  rows: i32,
  dst: usize,
  width: i32,
  starts: usize,
  lanes: usize,
  taps: i32,
  places: usize,
): void {
  const half = held(i32x4.splat(1 << 8))
  for (let y = 0; y < rows; y++) {
    const line = src + <usize>(y * srcStride)
    const out = dst + <usize>(y * width) * 2
    if (taps == 4) columns(line, out, width, starts, lanes, 4, places, half)
    else columns(line, out, width, starts, lanes, taps, places, half)
  }
}

/** A row. Inlined twice, once for so many taps as most have. */
// @ts-ignore: decorator
@inline
function columns(
  line: usize,
  out: usize,
  width: i32,
  starts: usize,
  lanes: usize,
  taps: i32,
  places: usize,
  half: v128,
): void {
  let w = lanes
  let at = places
  let x = 0
  for (; x + 8 <= width; x += 8, w += <usize>taps * 16, at += <usize>taps * 8) {
    const near = fourOutputs(sixteen(line, starts, x), at, w, taps)
    const far = fourOutputs(sixteen(line, starts, x + 4), at + <usize>taps * 4, w + <usize>taps * 8, taps)
    v128.store(
      out + <usize>x * 2,
      i16x8.narrow_i32x4_s(i32x4.shr_s(i32x4.add(near, half), 9), i32x4.shr_s(i32x4.add(far, half), 9)),
    )
  }
  for (; x < width; x += 4, w += <usize>taps * 8, at += <usize>taps * 4)
    putFour(out + <usize>x * 2, fourOutputs(sixteen(line, starts, x), at, w, taps), half, width - x)
}

/** The sixteen samples that four outputs are made of. */
// @ts-ignore: decorator
@inline
function sixteen(line: usize, starts: usize, x: i32): v128 {
  return v128.load(line + <usize>load<i32>(starts + <usize>x * 4))
}

/** What all taps of four outputs come to. */
// @ts-ignore: decorator
@inline
function fourOutputs(own: v128, at: usize, w: usize, taps: i32): v128 {
  let sum = fourTaps(own, at, w)
  if (taps > 4)
    for (let t: usize = 4; t < <usize>taps; t += 4) sum = i32x4.add(sum, fourTaps(own, at + t * 4, w + t * 8))
  return sum
}

/** What four taps of each of four outputs come to. */
// @ts-ignore: decorator
@inline
function fourTaps(own: v128, at: usize, w: usize): v128 {
  const taken = i8x16.swizzle(own, v128.load(at))
  return i32x4.add(
    i32x4.dot_i16x8_s(i16x8.extend_low_i8x16_u(taken), v128.load(w)),
    i32x4.dot_i16x8_s(i16x8.extend_high_i8x16_u(taken), v128.load(w, 16)),
  )
}

/** Writes four outputs, or as many as are left: what follows may be another thread's. */
// @ts-ignore: decorator
@inline
function putFour(out: usize, sum: v128, half: v128, left: i32): void {
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

/** A row from four. */
function fourRows(from: usize, stride: usize, w: usize, out: usize, width: i32): void {
  const w01 = held(v128.load32_splat(w))
  const w23 = held(v128.load32_splat(w, 4))
  const half = held(i32x4.splat(1 << 18))
  let x = 0
  for (; x + 16 <= width; x += 16) {
    const p = from + <usize>x * 2
    const words = eightOfFour(p, stride, w01, w23, half)
    v128.store(out + <usize>x, i8x16.narrow_i16x8_u(words, eightOfFour(p + 16, stride, w01, w23, half)))
  }
  for (; x < width; x += 8)
    putEight(out + <usize>x, eightOfFour(from + <usize>x * 2, stride, w01, w23, half), width - x)
}

/** Eight samples from as many of each of four rows. */
// @ts-ignore: decorator
@inline
function eightOfFour(p: usize, stride: usize, w01: v128, w23: v128, half: v128): v128 {
  const q = p + stride * 2
  const a = v128.load(p)
  const b = v128.load(p + stride)
  const c = v128.load(q)
  const d = v128.load(q + stride)
  return toWords(
    i32x4.add(i32x4.add(i32x4.dot_i16x8_s(low(a, b), w01), i32x4.dot_i16x8_s(low(c, d), w23)), half),
    i32x4.add(i32x4.add(i32x4.dot_i16x8_s(high(a, b), w01), i32x4.dot_i16x8_s(high(c, d), w23)), half),
  )
}

/** Sums of eight samples without the bits that only sums have. */
// @ts-ignore: decorator
@inline
function toWords(near: v128, far: v128): v128 {
  return i16x8.narrow_i32x4_s(i32x4.shr_s(near, 19), i32x4.shr_s(far, 19))
}

function moreRows(from: usize, stride: usize, w: usize, taps: i32, out: usize, width: i32): void {
  const half = held(i32x4.splat(1 << 18))
  for (let x = 0; x < width; x += 8) {
    let near = half
    let far = half
    let p = from + <usize>x * 2
    for (let t = 0; t < taps; t += 2, p += stride * 2) {
      const own = v128.load32_splat(w + <usize>t * 2)
      const a = v128.load(p)
      const b = v128.load(p + stride)
      near = i32x4.add(near, i32x4.dot_i16x8_s(low(a, b), own))
      far = i32x4.add(far, i32x4.dot_i16x8_s(high(a, b), own))
    }
    putEight(out + <usize>x, toWords(near, far), width - x)
  }
}

/** The first four samples of two rows, one beside the other. */
// @ts-ignore: decorator
@inline
function low(a: v128, b: v128): v128 {
  return v128.shuffle<i16>(a, b, 0, 8, 1, 9, 2, 10, 3, 11)
}

/** The other four. */
// @ts-ignore: decorator
@inline
function high(a: v128, b: v128): v128 {
  return v128.shuffle<i16>(a, b, 4, 12, 5, 13, 6, 14, 7, 15)
}

/** Writes eight samples, or as many as are left: what follows is the next row's, and may be another thread's. */
// @ts-ignore: decorator
@inline
function putEight(out: usize, words: v128, left: i32): void {
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
