// Box blur of premultiplied RGBA with running sums; three passes come close to a Gaussian (Wells, IEEE PAMI-8, 1986).

import { held, loadTwo, storeTwo } from './pixel'

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

/**
 * A pass of a symmetric filter of five taps along rows, or columns with `down` 1, eight-bit in and out: for blurs of a
 * pixel or two, several times over. Weights of 32768: the middle, its neighbours, those beyond.
 */
export function blurFive(src: usize, dst: usize, w: i32, h: i32, down: i32, near: i32, far: i32): void {
  const nearer = held(i16x8.splat(<i16>near))
  const farther = held(i16x8.splat(<i16>far))
  const stride = w * 4
  for (let y = 0; y < h; y++) {
    const row = src + <usize>(y * stride)
    const out = dst + <usize>(y * stride)
    const up1 = src + <usize>(max(y - 1, 0) * stride)
    const up2 = src + <usize>(max(y - 2, 0) * stride)
    const down1 = src + <usize>(min(y + 1, h - 1) * stride)
    const down2 = src + <usize>(min(y + 2, h - 1) * stride)
    for (let x = 0; x < w; x += 2) {
      // The last of an odd row is done with the one before it.
      const c = <usize>(x + 2 <= w ? x : max(w - 2, 0)) * 4
      const middle = loadTwo(row + c)
      let a: v128
      let b: v128
      if (down != 0) {
        a = i16x8.avgr_u(loadTwo(up1 + c), loadTwo(down1 + c))
        b = i16x8.avgr_u(loadTwo(up2 + c), loadTwo(down2 + c))
      } else {
        const i = <i32>(c >> 2)
        if (i >= 2 && i + 4 <= w) {
          a = i16x8.avgr_u(loadTwo(row + c - 4), loadTwo(row + c + 4))
          b = i16x8.avgr_u(loadTwo(row + c - 8), loadTwo(row + c + 8))
        } else {
          a = i16x8.avgr_u(pair(row, i - 1, w), pair(row, i + 1, w))
          b = i16x8.avgr_u(pair(row, i - 2, w), pair(row, i + 2, w))
        }
      }
      const sum = i16x8.add(
        middle,
        i16x8.add(
          i16x8.q15mulr_sat_s(i16x8.sub(a, middle), nearer),
          i16x8.q15mulr_sat_s(i16x8.sub(b, middle), farther),
        ),
      )
      storeTwo(out + c, sum)
    }
  }
}

/** Two neighbours of a row; edge pixels repeat. */
// @ts-ignore: decorator
@inline
function pair(row: usize, x: i32, w: i32): v128 {
  const first = v128.load32_zero(row + <usize>min(max(x, 0), w - 1) * 4)
  const second = v128.load32_zero(row + <usize>min(max(x + 1, 0), w - 1) * 4)
  return i16x8.shl(i16x8.extend_low_i8x16_u(v128.shuffle<i32>(first, second, 0, 4, 1, 5)), 7)
}
