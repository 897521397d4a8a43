// Fine detail drawn sharper: luma goes away from a blurred copy of itself and takes the colours along, so that edges
// get no coloured seams.
import { channel, held, loadFour, lumaOf } from './pixel'
import { weight, with2 } from './weights'

/** Luma of pixels, a byte each. */
export function lumaPlane(src: usize, plane: usize, n: i32): void {
  for (let i = 0; i < n; i += 4) {
    const left = n - i
    const four = loadFour(src + <usize>i * 4, left)
    const words = lumaOf(channel(four, 0), channel(four, 8), channel(four, 16))
    const half = i16x8.narrow_i32x4_s(words, words)
    const bytes = i32x4.extract_lane(i8x16.narrow_i16x8_u(half, half), 0)
    const p = plane + <usize>i
    if (left >= 4) {
      store<u32>(p, bytes)
      continue
    }
    for (let k = 0; k < left; k++) store<u8>(p + <usize>k, <u8>(bytes >> (k << 3)))
  }
}

/** {@link with2} for values that are in 8.7 fixed point already. */
// @ts-ignore: decorator
@inline
function withFine(sum: v128, before: v128, after: v128, by: v128): v128 {
  return i16x8.add_sat_s(sum, i16x8.q15mulr_sat_s(i16x8.avgr_u(before, after), by))
}

/**
 * A symmetric filter of a byte plane along rows, into i16 of 8.7 fixed point.
 * @param weights seven i16 of 32768: the middle, then twice what a neighbour weighs; nothing beyond `radius`
 * @param radius neighbours on each side: 2, 4 or 6
 */
export function planeRows(plane: usize, dst: usize, w: i32, h: i32, weights: usize, radius: i32): void {
  const w0 = weight(weights, 0)
  const w1 = weight(weights, 1)
  const w2 = weight(weights, 2)
  const w3 = weight(weights, 3)
  const w4 = weight(weights, 4)
  const w5 = weight(weights, 5)
  const w6 = weight(weights, 6)
  for (let y = 0; y < h; y++) {
    const row = plane + <usize>(y * w)
    const out = dst + <usize>(y * w) * 2
    for (let x = 0; x < w; ) {
      const c = row + <usize>x
      if (x >= radius && x + 8 + radius <= w) {
        let sum = i16x8.q15mulr_sat_s(i16x8.shl(v128.load8x8_u(c), 7), w0)
        sum = with2(sum, v128.load8x8_u(c - 1), v128.load8x8_u(c + 1), w1)
        sum = with2(sum, v128.load8x8_u(c - 2), v128.load8x8_u(c + 2), w2)
        if (radius > 2) {
          sum = with2(sum, v128.load8x8_u(c - 3), v128.load8x8_u(c + 3), w3)
          sum = with2(sum, v128.load8x8_u(c - 4), v128.load8x8_u(c + 4), w4)
          if (radius > 4) {
            sum = with2(sum, v128.load8x8_u(c - 5), v128.load8x8_u(c + 5), w5)
            sum = with2(sum, v128.load8x8_u(c - 6), v128.load8x8_u(c + 6), w6)
          }
        }
        v128.store(out + <usize>x * 2, sum)
        x += 8
        continue
      }
      let sum = <i32>load<u8>(c) * 2 * <i32>load<i16>(weights)
      for (let k = 1; k <= radius; k++) {
        const both = <i32>load<u8>(row + <usize>max(x - k, 0)) + <i32>load<u8>(row + <usize>min(x + k, w - 1))
        sum += both * <i32>load<i16>(weights + <usize>k * 2)
      }
      store<i16>(out + <usize>x * 2, <i16>min((sum + 256) >> 9, 32640))
      x++
    }
  }
}

/**
 * Draws pixels of rows y0 … y1 sharper by what {@link planeRows} left, filtered along columns as well: each goes as far
 * from it as its luma is away, held within alpha.
 * @param plane luma of the pixels, a byte each
 * @param rows i16 of 8.7 fixed point
 * @param amount 1 doubles the difference; at most 8
 */
export function sharpenLuma(
  pixels: usize,
  plane: usize,
  rows: usize,
  w: i32,
  h: i32,
  weights: usize,
  radius: i32,
  amount: f32,
  y0: i32,
  y1: i32,
): void {
  const w0 = weight(weights, 0)
  const w1 = weight(weights, 1)
  const w2 = weight(weights, 2)
  const w3 = weight(weights, 3)
  const w4 = weight(weights, 4)
  const w5 = weight(weights, 5)
  const w6 = weight(weights, 6)
  const times = <i32>amount
  const part = held(i16x8.splat(<i16>((amount - <f32>times) * 32767)))
  const stride = w * 2
  for (let y = y0; y < y1; y++) {
    const row = rows + <usize>(y * stride)
    const u1 = rows + <usize>(max(y - 1, 0) * stride)
    const u2 = rows + <usize>(max(y - 2, 0) * stride)
    const u3 = rows + <usize>(max(y - 3, 0) * stride)
    const u4 = rows + <usize>(max(y - 4, 0) * stride)
    const u5 = rows + <usize>(max(y - 5, 0) * stride)
    const u6 = rows + <usize>(max(y - 6, 0) * stride)
    const d1 = rows + <usize>(min(y + 1, h - 1) * stride)
    const d2 = rows + <usize>(min(y + 2, h - 1) * stride)
    const d3 = rows + <usize>(min(y + 3, h - 1) * stride)
    const d4 = rows + <usize>(min(y + 4, h - 1) * stride)
    const d5 = rows + <usize>(min(y + 5, h - 1) * stride)
    const d6 = rows + <usize>(min(y + 6, h - 1) * stride)
    const lumas = plane + <usize>(y * w)
    const line = pixels + <usize>(y * w) * 4
    for (let x = 0; x + 8 <= w; x += 8) {
      const c = <usize>x * 2
      let sum = i16x8.q15mulr_sat_s(v128.load(row + c), w0)
      sum = withFine(sum, v128.load(u1 + c), v128.load(d1 + c), w1)
      sum = withFine(sum, v128.load(u2 + c), v128.load(d2 + c), w2)
      if (radius > 2) {
        sum = withFine(sum, v128.load(u3 + c), v128.load(d3 + c), w3)
        sum = withFine(sum, v128.load(u4 + c), v128.load(d4 + c), w4)
        if (radius > 4) {
          sum = withFine(sum, v128.load(u5 + c), v128.load(d5 + c), w5)
          sum = withFine(sum, v128.load(u6 + c), v128.load(d6 + c), w6)
        }
      }
      const more = detail(i16x8.shl(v128.load8x8_u(lumas + <usize>x), 7), sum, part, times)
      const p = line + <usize>x * 4
      addFour(p, more)
      addFour(p + 16, v128.shuffle<i64>(more, more, 1, 0))
    }
    for (let x = w & ~7; x < w; x++) {
      let sum = <i32>load<i16>(row + <usize>x * 2) * 2 * <i32>load<i16>(weights)
      for (let k = 1; k <= radius; k++) {
        const above = load<i16>(rows + <usize>(max(y - k, 0) * w + x) * 2)
        const below = load<i16>(rows + <usize>(min(y + k, h - 1) * w + x) * 2)
        sum += ((<i32>above + <i32>below) >> 1) * 2 * <i32>load<i16>(weights + <usize>k * 2)
      }
      const luma = i16x8.splat(<i16>(<i32>load<u8>(lumas + <usize>x) << 7))
      const more = detail(luma, i16x8.splat(<i16>min((sum + 32768) >> 16, 32640)), part, times)
      addOne(line + <usize>x * 4, more)
    }
  }
}

/** How much is added to each of eight pixels, −256…255, whole numbers. */
// @ts-ignore: decorator
@inline
function detail(luma: v128, blurred: v128, part: v128, times: i32): v128 {
  const off = i16x8.sub(luma, blurred)
  let sum = i16x8.q15mulr_sat_s(off, part)
  for (let k = 0; k < times; k++) sum = i16x8.add_sat_s(sum, off)
  return i16x8.shr_s(i16x8.add_sat_s(sum, i16x8.splat(64)), 7)
}

/** Adds to the colours of two pixels in whole numbers, and holds them within alpha. */
// @ts-ignore: decorator
@inline
function added(two: v128, more: v128): v128 {
  const sum = i16x8.add(two, more)
  return i16x8.min_s(sum, v128.shuffle<i16>(two, two, 3, 3, 3, 3, 7, 7, 7, 7))
}

/** Adds the first four of eight values to four pixels. */
// @ts-ignore: decorator
@inline
function addFour(p: usize, more: v128): void {
  const spread = i8x16(0, 1, 0, 1, 0, 1, -1, -1, 2, 3, 2, 3, 2, 3, -1, -1)
  const four = v128.load(p)
  const low = added(i16x8.extend_low_i8x16_u(four), i8x16.swizzle(more, spread))
  const next = v128.shuffle<i32>(more, more, 1, 1, 1, 1)
  const high = added(i16x8.extend_high_i8x16_u(four), i8x16.swizzle(next, spread))
  v128.store(p, i8x16.narrow_i16x8_u(low, high))
}

/** Adds the first of the values to one pixel. */
// @ts-ignore: decorator
@inline
function addOne(p: usize, more: v128): void {
  const pixel = i16x8.extend_low_i8x16_u(v128.load32_zero(p))
  const out = added(pixel, i8x16.swizzle(more, i8x16(0, 1, 0, 1, 0, 1, -1, -1, -1, -1, -1, -1, -1, -1, -1, -1)))
  v128.store32_lane(p, i8x16.narrow_i16x8_u(out, out), 0)
}

/**
 * Draws pixels sharper where the blurred copy is there already: by the difference of the lumas.
 * @param blurred luma of the blurred copy, a byte each
 */
export function sharpenFrom(pixels: usize, plane: usize, blurred: usize, n: i32, amount: f32): void {
  const times = <i32>amount
  const part = held(i16x8.splat(<i16>((amount - <f32>times) * 32767)))
  let i = 0
  for (; i + 8 <= n; i += 8) {
    const o = <usize>i
    const luma = i16x8.shl(v128.load8x8_u(plane + o), 7)
    const more = detail(luma, i16x8.shl(v128.load8x8_u(blurred + o), 7), part, times)
    addFour(pixels + o * 4, more)
    addFour(pixels + o * 4 + 16, v128.shuffle<i64>(more, more, 1, 0))
  }
  for (; i < n; i++) {
    const o = <usize>i
    const luma = i16x8.splat(<i16>(<i32>load<u8>(plane + o) << 7))
    const more = detail(luma, i16x8.splat(<i16>(<i32>load<u8>(blurred + o) << 7)), part, times)
    addOne(pixels + o * 4, more)
  }
}
