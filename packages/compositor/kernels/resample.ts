// Separable resampling of premultiplied RGBA with weight tables made by the caller. Weights are 14-bit, an even number
// of taps per output; between the two passes pixels carry 5 more bits so that rounding happens once.

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
  const half = i32x4.splat(1 << 8)
  for (let y = 0; y < rows; y++) {
    const line = src + <usize>(y * srcStride)
    const out = dst + <usize>(y * width) * 8
    let w = weights
    let x = 0
    // Enlarging, and anything at its own size, takes four neighbours; down to two thirds, six; down to half, eight.
    if (taps == 4)
      for (; x < width; x++, w += 8) {
        const p = line + <usize>load<i32>(starts + x * 4) * 4
        put(out + x * 8, fourOf(p, w, half))
      }
    else if (taps == 6)
      for (; x < width; x++, w += 12) {
        const p = line + <usize>load<i32>(starts + x * 4) * 4
        put(out + x * 8, twoOf(p + 16, w + 8, fourOf(p, w, half)))
      }
    else if (taps == 8)
      for (; x < width; x++, w += 16) {
        const p = line + <usize>load<i32>(starts + x * 4) * 4
        put(out + x * 8, fourOf(p + 16, w + 8, fourOf(p, w, half)))
      }
    for (; x < width; x++) {
      let p = line + <usize>load<i32>(starts + x * 4) * 4
      let sum = half
      for (let t = 0; t < taps; t += 2) {
        sum = twoOf(p, w, sum)
        p += 8
        w += 4
      }
      put(out + x * 8, sum)
    }
  }
}

/** A sum with what four neighbouring pixels come to by their weights. */
// @ts-ignore: decorator
@inline
function fourOf(p: usize, w: usize, sum: v128): v128 {
  const four = v128.load(p)
  const mixed = v128.shuffle<u8>(four, four, 0, 4, 1, 5, 2, 6, 3, 7, 8, 12, 9, 13, 10, 14, 11, 15)
  const first = i32x4.add(sum, i32x4.dot_i16x8_s(i16x8.extend_low_i8x16_u(mixed), v128.load32_splat(w)))
  return i32x4.add(first, i32x4.dot_i16x8_s(i16x8.extend_high_i8x16_u(mixed), v128.load32_splat(w + 4)))
}

/** The same for two. */
// @ts-ignore: decorator
@inline
function twoOf(p: usize, w: usize, sum: v128): v128 {
  const pair = v128.load64_zero(p)
  const mixed = v128.shuffle<u8>(pair, pair, 0, 4, 1, 5, 2, 6, 3, 7, 0, 0, 0, 0, 0, 0, 0, 0)
  return i32x4.add(sum, i32x4.dot_i16x8_s(i16x8.extend_low_i8x16_u(mixed), v128.load32_splat(w)))
}

/** Writes a pixel with five more bits. */
// @ts-ignore: decorator
@inline
function put(p: usize, sum: v128): void {
  const packed = i32x4.shr_s(sum, 9)
  v128.store64_lane(p, i16x8.narrow_i32x4_s(packed, packed), 0)
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
  const half = i32x4.splat(1 << 18)
  let x = 0
  for (; x < width; x += 2) {
    let low = half
    let high = half
    let p = rows + <usize>x * 8
    for (let t = 0; t < taps; t += 2) {
      const a = v128.load(p)
      const b = v128.load(p + stride)
      const w = v128.load32_splat(weights + t * 2)
      low = i32x4.add(low, i32x4.dot_i16x8_s(v128.shuffle<i16>(a, b, 0, 8, 1, 9, 2, 10, 3, 11), w))
      high = i32x4.add(high, i32x4.dot_i16x8_s(v128.shuffle<i16>(a, b, 4, 12, 5, 13, 6, 14, 7, 15), w))
      p += stride * 2
    }
    const words = i16x8.narrow_i32x4_s(i32x4.shr_s(low, 19), i32x4.shr_s(high, 19))
    const bytes = i8x16.narrow_i16x8_u(words, words)
    const alpha = v128.shuffle<u8>(bytes, bytes, 3, 3, 3, 3, 7, 7, 7, 7, 3, 3, 3, 3, 7, 7, 7, 7)
    const held = i8x16.min_u(bytes, alpha)
    if (x + 2 <= width) v128.store64_lane(dst + x * 4, held, 0)
    else v128.store32_lane(dst + x * 4, held, 0)
  }
}
