// Separable resampling of premultiplied RGBA with weight tables made by the caller. Weights are 14-bit, an even number
// of taps per output; between the two passes pixels carry 5 more bits so that rounding happens once.

import { held } from './pixel'

/**
 * First pass, along rows: `rows` rows of `src` to `width` pixels of 4 × i16 each.
 * @param starts first source pixel per output pixel (i32); taps that reach past the row's end have weight 0
 * @param weights `taps` i16 per output pixel
 */
export function resampleColumns(
  src: usize,
  srcStride: i32,
  rows: i32,
  dst: usize,
  width: i32,
  starts: usize,
  weights: usize,
  taps: i32,
): void {
  const half = held(i32x4.splat(1 << 8))
  const pairs = held(i8x16(0, 4, 1, 5, 2, 6, 3, 7, 8, 12, 9, 13, 10, 14, 11, 15))
  for (let y = 0; y < rows; y++) {
    const line = src + <usize>(y * srcStride)
    const out = dst + <usize>(y * width) * 8
    let w = weights
    let x = 0
    // Enlarging, and anything at its own size, takes four neighbours; down to two thirds, six; down to half, eight.
    if (taps == 4)
      for (; x + 2 <= width; x += 2, w += 16) {
        const first = fourOf(pixelAt(line, starts, x), w, half, pairs)
        putTwo(out + x * 8, first, fourOf(pixelAt(line, starts, x + 1), w + 8, half, pairs))
      }
    else if (taps == 6)
      for (; x < width; x++, w += 12) {
        const p = pixelAt(line, starts, x)
        put(out + x * 8, twoOf(p + 16, w + 8, fourOf(p, w, half, pairs), pairs))
      }
    else if (taps == 8)
      for (; x + 2 <= width; x += 2, w += 32) {
        const p = pixelAt(line, starts, x)
        const q = pixelAt(line, starts, x + 1)
        const first = fourOf(p + 16, w + 8, fourOf(p, w, half, pairs), pairs)
        putTwo(out + x * 8, first, fourOf(q + 16, w + 24, fourOf(q, w + 16, half, pairs), pairs))
      }
    for (; x < width; x++) {
      let p = pixelAt(line, starts, x)
      let sum = half
      for (let t = 0; t < taps; t += 2) {
        sum = twoOf(p, w, sum, pairs)
        p += 8
        w += 4
      }
      put(out + x * 8, sum)
    }
  }
}

/** The first of the pixels that an output is made of. */
// @ts-ignore: decorator
@inline
function pixelAt(line: usize, starts: usize, x: i32): usize {
  return line + <usize>load<i32>(starts + x * 4) * 4
}

/** A sum with what four neighbouring pixels come to by their weights. @param pairs puts channels of two side by side */
// @ts-ignore: decorator
@inline
function fourOf(p: usize, w: usize, sum: v128, pairs: v128): v128 {
  const mixed = i8x16.swizzle(v128.load(p), pairs)
  const first = i32x4.add(sum, i32x4.dot_i16x8_s(i16x8.extend_low_i8x16_u(mixed), v128.load32_splat(w)))
  return i32x4.add(first, i32x4.dot_i16x8_s(i16x8.extend_high_i8x16_u(mixed), v128.load32_splat(w + 4)))
}

/** The same for two. */
// @ts-ignore: decorator
@inline
function twoOf(p: usize, w: usize, sum: v128, pairs: v128): v128 {
  const mixed = i8x16.swizzle(v128.load64_zero(p), pairs)
  return i32x4.add(sum, i32x4.dot_i16x8_s(i16x8.extend_low_i8x16_u(mixed), v128.load32_splat(w)))
}

/** Writes a pixel with five more bits. */
// @ts-ignore: decorator
@inline
function put(p: usize, sum: v128): void {
  const packed = i32x4.shr_s(sum, 9)
  v128.store64_lane(p, i16x8.narrow_i32x4_s(packed, packed), 0)
}

/** Two pixels one beside the other. */
// @ts-ignore: decorator
@inline
function putTwo(p: usize, first: v128, second: v128): void {
  v128.store(p, i16x8.narrow_i32x4_s(i32x4.shr_s(first, 9), i32x4.shr_s(second, 9)))
}

/**
 * Second pass over output rows y0 … y1, each to its place in `dst`.
 * @param rows address of the first pass's rows, of which row `first` of the source is the first; `stride` bytes apart
 * @param starts first source row per output row (i32)
 * @param weights `taps` i16 per output row
 */
export function resampleBand(
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
  for (let y = y0; y < y1; y++)
    resampleRows(
      rows + <usize>((load<i32>(starts + <usize>y * 4) - first) * stride),
      stride,
      weights + <usize>(y * taps) * 2,
      taps,
      dst + <usize>(y * width) * 4,
      width,
    )
}

/**
 * Second pass, one output row from `taps` rows of the first pass. Colour is held within 0 and alpha, so that a sharp
 * filter's overshoot never makes an impossible pixel.
 * @param rows address of the first of the rows; `stride` bytes apart
 * @param weights `taps` i16
 */
function resampleRows(rows: usize, stride: i32, weights: usize, taps: i32, dst: usize, width: i32): void {
  const half = held(i32x4.splat(1 << 18))
  const alphas = held(i8x16(3, 3, 3, 3, 7, 7, 7, 7, 11, 11, 11, 11, 15, 15, 15, 15))
  const step = <usize>stride * 2
  let x = 0
  for (; x + 4 <= width; x += 4) {
    let a = half
    let b = half
    let c = half
    let d = half
    let p = rows + <usize>x * 8
    for (let t = 0; t < taps; t += 2, p += step) {
      const w = v128.load32_splat(weights + t * 2)
      const near = v128.load(p)
      const far = v128.load(p + stride)
      const near2 = v128.load(p, 16)
      const far2 = v128.load(p + stride, 16)
      a = i32x4.add(a, i32x4.dot_i16x8_s(v128.shuffle<i16>(near, far, 0, 8, 1, 9, 2, 10, 3, 11), w))
      b = i32x4.add(b, i32x4.dot_i16x8_s(v128.shuffle<i16>(near, far, 4, 12, 5, 13, 6, 14, 7, 15), w))
      c = i32x4.add(c, i32x4.dot_i16x8_s(v128.shuffle<i16>(near2, far2, 0, 8, 1, 9, 2, 10, 3, 11), w))
      d = i32x4.add(d, i32x4.dot_i16x8_s(v128.shuffle<i16>(near2, far2, 4, 12, 5, 13, 6, 14, 7, 15), w))
    }
    const bytes = i8x16.narrow_i16x8_u(toWords(a, b), toWords(c, d))
    v128.store(dst + x * 4, i8x16.min_u(bytes, i8x16.swizzle(bytes, alphas)))
  }
  for (; x < width; x++) {
    let sum = half
    let p = rows + <usize>x * 8
    for (let t = 0; t < taps; t += 2, p += step) {
      const both = v128.shuffle<i16>(v128.load64_zero(p), v128.load64_zero(p + stride), 0, 8, 1, 9, 2, 10, 3, 11)
      sum = i32x4.add(sum, i32x4.dot_i16x8_s(both, v128.load32_splat(weights + t * 2)))
    }
    const words = toWords(sum, sum)
    const bytes = i8x16.narrow_i16x8_u(words, words)
    v128.store32_lane(dst + x * 4, i8x16.min_u(bytes, i8x16.swizzle(bytes, alphas)), 0)
  }
}

/** Sums of two pixels without the bits that only sums have. */
// @ts-ignore: decorator
@inline
function toWords(first: v128, second: v128): v128 {
  return i16x8.narrow_i32x4_s(i32x4.shr_s(first, 19), i32x4.shr_s(second, 19))
}
