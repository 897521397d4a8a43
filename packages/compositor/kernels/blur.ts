// Box blur of premultiplied RGBA with running sums; three passes come close to a Gaussian (Wells, IEEE PAMI-8, 1986).

import { held, loadTwo, storeTwo } from './pixel'
import { weight, with2 } from './weights'

/** One line of `n` pixels, `step` bytes apart, averaged over 2·radius + 1; edge pixels repeat. */
// @ts-ignore: decorator
@inline
function line(src: usize, dst: usize, n: i32, step: usize, radius: i32): void {
  const last = src + <usize>(n - 1) * step
  const first = pixel(src)
  const width = 2 * radius + 1
  let sum = i32x4.mul(first, i32x4.splat(radius + 1))
  for (let i = 1; i <= radius; i++) sum = i32x4.add(sum, pixel(i < n ? src + <usize>i * step : last))
  const scale = held(f32x4.splat(<f32>1 / <f32>width))
  for (let i = 0; i < n; i++) {
    const mean = i32x4.trunc_sat_f32x4_s(f32x4.nearest(f32x4.mul(f32x4.convert_i32x4_s(sum), scale)))
    const half = i16x8.narrow_i32x4_s(mean, mean)
    v128.store32_lane(dst + <usize>i * step, i8x16.narrow_i16x8_u(half, half), 0)
    const ahead = i + radius + 1
    const behind = i - radius
    sum = i32x4.add(sum, pixel(ahead < n ? src + <usize>ahead * step : last))
    sum = i32x4.sub(sum, behind > 0 ? pixel(src + <usize>behind * step) : first)
  }
}

// @ts-ignore: decorator
@inline
function pixel(p: usize): v128 {
  return i32x4.extend_low_i16x8_u(i16x8.extend_low_i8x16_u(v128.load32_zero(p)))
}

/** Averages along rows, from `src` to `dst`. */
export function blurRows(src: usize, dst: usize, w: i32, h: i32, radius: i32): void {
  const stride = <usize>w * 4
  for (let y = 0; y < h; y++) line(src + <usize>y * stride, dst + <usize>y * stride, w, 4, radius)
}

/** Averages along columns, from `src` to `dst`. Sums of a whole row are kept at `sums`, w × 16 bytes. */
export function blurColumns(src: usize, dst: usize, w: i32, h: i32, radius: i32, sums: usize): void {
  const stride = <usize>w * 4
  const last = src + <usize>(h - 1) * stride
  const width = 2 * radius + 1
  const scale = held(f32x4.splat(<f32>1 / <f32>width))
  for (let x = 0; x < w; x++) {
    const o = <usize>x * 4
    let sum = i32x4.mul(pixel(src + o), i32x4.splat(radius + 1))
    for (let i = 1; i <= radius; i++) sum = i32x4.add(sum, pixel((i < h ? src + <usize>i * stride : last) + o))
    v128.store(sums + <usize>x * 16, sum)
  }
  for (let y = 0; y < h; y++) {
    const ahead = y + radius + 1 < h ? src + <usize>(y + radius + 1) * stride : last
    const behind = y - radius > 0 ? src + <usize>(y - radius) * stride : src
    const out = dst + <usize>y * stride
    for (let x = 0; x < w; x++) {
      const o = <usize>x * 4
      let sum = v128.load(sums + <usize>x * 16)
      const mean = i32x4.trunc_sat_f32x4_s(f32x4.nearest(f32x4.mul(f32x4.convert_i32x4_s(sum), scale)))
      const half = i16x8.narrow_i32x4_s(mean, mean)
      v128.store32_lane(out + o, i8x16.narrow_i16x8_u(half, half), 0)
      sum = i32x4.sub(i32x4.add(sum, pixel(ahead + o)), pixel(behind + o))
      v128.store(sums + <usize>x * 16, sum)
    }
  }
}

/** Two pixels as whole numbers. */
// @ts-ignore: decorator
@inline
function bytesOf(p: usize): v128 {
  return v128.load8x8_u(p)
}

/**
 * A symmetric filter along columns, eight-bit in and out: Gaussians of a few pixels in one go. Fills rows y0 … y1.
 * @param weights seven i16 of 32768: the middle, then twice what a neighbour weighs; nothing beyond `radius`
 * @param radius neighbours on each side: 2, 4 or 6
 */
export function filterColumns(
  src: usize,
  dst: usize,
  w: i32,
  h: i32,
  weights: usize,
  radius: i32,
  y0: i32,
  y1: i32,
): void {
  const stride = w * 4
  const w0 = weight(weights, 0)
  const w1 = weight(weights, 1)
  const w2 = weight(weights, 2)
  const w3 = weight(weights, 3)
  const w4 = weight(weights, 4)
  const w5 = weight(weights, 5)
  const w6 = weight(weights, 6)
  for (let y = y0; y < y1; y++) {
    const row = src + <usize>(y * stride)
    const out = dst + <usize>(y * stride)
    const u1 = src + <usize>(max(y - 1, 0) * stride)
    const u2 = src + <usize>(max(y - 2, 0) * stride)
    const u3 = src + <usize>(max(y - 3, 0) * stride)
    const u4 = src + <usize>(max(y - 4, 0) * stride)
    const u5 = src + <usize>(max(y - 5, 0) * stride)
    const u6 = src + <usize>(max(y - 6, 0) * stride)
    const d1 = src + <usize>(min(y + 1, h - 1) * stride)
    const d2 = src + <usize>(min(y + 2, h - 1) * stride)
    const d3 = src + <usize>(min(y + 3, h - 1) * stride)
    const d4 = src + <usize>(min(y + 4, h - 1) * stride)
    const d5 = src + <usize>(min(y + 5, h - 1) * stride)
    const d6 = src + <usize>(min(y + 6, h - 1) * stride)
    for (let x = 0; x < w; x += 2) {
      // The last of an odd row is done with the one before it.
      const c = <usize>(x + 2 <= w ? x : max(w - 2, 0)) * 4
      let sum = i16x8.q15mulr_sat_s(loadTwo(row + c), w0)
      sum = with2(sum, bytesOf(u1 + c), bytesOf(d1 + c), w1)
      sum = with2(sum, bytesOf(u2 + c), bytesOf(d2 + c), w2)
      if (radius > 2) {
        sum = with2(sum, bytesOf(u3 + c), bytesOf(d3 + c), w3)
        sum = with2(sum, bytesOf(u4 + c), bytesOf(d4 + c), w4)
        if (radius > 4) {
          sum = with2(sum, bytesOf(u5 + c), bytesOf(d5 + c), w5)
          sum = with2(sum, bytesOf(u6 + c), bytesOf(d6 + c), w6)
        }
      }
      storeTwo(out + c, sum)
    }
  }
}

/** {@link filterColumns} along all rows. */
export function filterRows(src: usize, dst: usize, w: i32, h: i32, weights: usize, radius: i32): void {
  const w0 = weight(weights, 0)
  const w1 = weight(weights, 1)
  const w2 = weight(weights, 2)
  const w3 = weight(weights, 3)
  const w4 = weight(weights, 4)
  const w5 = weight(weights, 5)
  const w6 = weight(weights, 6)
  const stride = w * 4
  const inner = w - radius - 2
  for (let y = 0; y < h; y++) {
    const row = src + <usize>(y * stride)
    const out = dst + <usize>(y * stride)
    for (let x = 0; x < w; x += 2) {
      const i = x + 2 <= w ? x : max(w - 2, 0)
      const c = row + <usize>i * 4
      let sum = i16x8.q15mulr_sat_s(loadTwo(c), w0)
      if (i >= radius && i <= inner) {
        sum = with2(sum, bytesOf(c - 4), bytesOf(c + 4), w1)
        sum = with2(sum, bytesOf(c - 8), bytesOf(c + 8), w2)
        if (radius > 2) {
          sum = with2(sum, bytesOf(c - 12), bytesOf(c + 12), w3)
          sum = with2(sum, bytesOf(c - 16), bytesOf(c + 16), w4)
          if (radius > 4) {
            sum = with2(sum, bytesOf(c - 20), bytesOf(c + 20), w5)
            sum = with2(sum, bytesOf(c - 24), bytesOf(c + 24), w6)
          }
        }
      } else {
        for (let k = 1; k <= radius; k++)
          sum = with2(sum, pair(row, i - k, w), pair(row, i + k, w), i16x8.splat(load<i16>(weights + <usize>k * 2)))
      }
      storeTwo(out + <usize>i * 4, sum)
    }
  }
}

/** Two neighbours of a row; edge pixels repeat. */
// @ts-ignore: decorator
@inline
function pair(row: usize, x: i32, w: i32): v128 {
  const first = v128.load32_zero(row + <usize>min(max(x, 0), w - 1) * 4)
  const second = v128.load32_zero(row + <usize>min(max(x + 1, 0), w - 1) * 4)
  return i16x8.extend_low_i8x16_u(v128.shuffle<i32>(first, second, 0, 4, 1, 5))
}
