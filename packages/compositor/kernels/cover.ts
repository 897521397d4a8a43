// Coverage of masks, a byte a pixel: made of distances, joined, softened, and what is done by it.
import { held, loadPixel, loadTwo, storePixel, storeTwo } from './pixel'

/**
 * Coverage of distances: all of it `inner` pixels inside the edge, none `outer` pixels outside, with a smooth way
 * between; at least a pixel wide, so that edges are not jagged.
 * @param opacity 0…1; `straight` 1 goes evenly, as gradients do
 */
export function cover(
  distance: usize,
  plane: usize,
  n: i32,
  inner: f32,
  outer: f32,
  opacity: f32,
  invert: i32,
  straight: i32,
): void {
  const wide = max<f32>(inner + outer, 1)
  const from = f32x4.splat((outer - inner + wide) / 2)
  const per = f32x4.splat(<f32>1 / wide)
  const full = f32x4.splat(opacity * 255)
  const one = f32x4.splat(1)
  const zero = f32x4.splat(0)
  for (let i = 0; i < n; i += 4) {
    const p = distance + <usize>i * 4
    let d: v128
    if (n - i >= 4) d = v128.load(p)
    else {
      const b: f32 = n - i > 1 ? load<f32>(p, 4) : 0
      const c: f32 = n - i > 2 ? load<f32>(p, 8) : 0
      d = f32x4(load<f32>(p), b, c, 0)
    }
    let k = f32x4.pmin(f32x4.pmax(f32x4.mul(f32x4.sub(from, d), per), zero), one)
    if (straight == 0) k = f32x4.mul(f32x4.mul(k, k), f32x4.sub(f32x4.splat(3), f32x4.add(k, k)))
    if (invert != 0) k = f32x4.sub(one, k)
    storeCover(plane + <usize>i, f32x4.mul(k, full), n - i)
  }
}

/** Writes four values of 0…255 as bytes, or as many as are left. */
// @ts-ignore: decorator
@inline
export function storeCover(p: usize, value: v128, left: i32): void {
  const words = i32x4.trunc_sat_f32x4_s(f32x4.nearest(value))
  const half = i16x8.narrow_i32x4_s(words, words)
  const bytes = i32x4.extract_lane(i8x16.narrow_i16x8_u(half, half), 0)
  if (left >= 4) {
    store<u32>(p, bytes)
    return
  }
  store<u8>(p, <u8>bytes)
  if (left > 1) store<u8>(p, <u8>(bytes >> 8), 1)
  if (left > 2) store<u8>(p, <u8>(bytes >> 16), 2)
}

/** Brings another coverage into one: 0 adds, 1 takes away, 2 keeps what both cover. */
export function joinCover(plane: usize, other: usize, n: i32, mode: i32): void {
  for (let i: usize = 0, end = <usize>n; i < end; i++) {
    const a = <u32>load<u8>(plane + i)
    const b = <u32>load<u8>(other + i)
    const v = mode == 0 ? max(a, b) : (a * (mode == 1 ? 255 - b : b) + 127) / 255
    store<u8>(plane + i, <u8>v)
  }
}

/** All that was not covered, and the other way round. */
export function invertCover(plane: usize, n: i32): void {
  for (let i: usize = 0, end = <usize>n; i < end; i++) store<u8>(plane + i, 255 - load<u8>(plane + i))
}

/** From one picture to another by coverage times `weight` (0…1). */
export function mixByCover(before: usize, after: usize, dst: usize, plane: usize, n: i32, weight: f32): void {
  const per = <i32>(weight * 32768 + 0.5)
  const all = per == 32768
  const part = held(i16x8.splat(<i16>min(per, 32767)))
  const channels = held(i8x16(0, 0, 0, 0, 1, 1, 1, 1, 2, 2, 2, 2, 3, 3, 3, 3))
  let i = 0
  for (; i + 4 <= n; i += 4) {
    const o = <usize>i * 4
    const cover = load<i32>(plane + <usize>i)
    // Most of a mask is nothing at all, or all of it.
    if (cover == 0) {
      v128.store(dst + o, v128.load(before + o))
      continue
    }
    if (cover == -1 && all) {
      v128.store(dst + o, v128.load(after + o))
      continue
    }
    const four = i8x16.swizzle(i32x4.splat(cover), channels)
    let low = factorOf(i16x8.extend_low_i8x16_u(four))
    let high = factorOf(i16x8.extend_high_i8x16_u(four))
    if (!all) {
      low = i16x8.q15mulr_sat_s(low, part)
      high = i16x8.q15mulr_sat_s(high, part)
    }
    const from = loadTwo(before + o)
    const next = loadTwo(before + o + 8)
    const first = i16x8.q15mulr_sat_s(i16x8.sub(loadTwo(after + o), from), low)
    const second = i16x8.q15mulr_sat_s(i16x8.sub(loadTwo(after + o + 8), next), high)
    storeTwo(dst + o, i16x8.add(from, first))
    storeTwo(dst + o + 8, i16x8.add(next, second))
  }
  for (; i < n; i++) {
    const o = <usize>i * 4
    const t = (<f32>load<u8>(plane + <usize>i) / 255) * weight
    const a = loadPixel(before + o)
    storePixel(dst + o, f32x4.add(a, f32x4.mul(f32x4.sub(loadPixel(after + o), a), f32x4.splat(t))))
  }
}

/** Pixels are as opaque as they are covered. */
export function keepCovered(pixels: usize, plane: usize, n: i32): void {
  let i = 0
  for (; i + 4 <= n; i += 4) {
    const cover = load<i32>(plane + <usize>i)
    if (cover == -1) continue
    const p = pixels + <usize>i * 4
    if (cover == 0) {
      v128.store(p, i32x4.splat(0))
      continue
    }
    // A byte of coverage as a factor of 15 bits, once for each channel.
    const four = i8x16.swizzle(i32x4.splat(cover), i8x16(0, 0, 0, 0, 1, 1, 1, 1, 2, 2, 2, 2, 3, 3, 3, 3))
    const low = factorOf(i16x8.extend_low_i8x16_u(four))
    const high = factorOf(i16x8.extend_high_i8x16_u(four))
    const first = i16x8.q15mulr_sat_s(loadTwo(p), low)
    const second = i16x8.q15mulr_sat_s(loadTwo(p + 8), high)
    storeTwo(p, first)
    storeTwo(p + 8, second)
  }
  for (; i < n; i++) {
    const p = pixels + <usize>i * 4
    storePixel(p, f32x4.mul(loadPixel(p), f32x4.splat(<f32>load<u8>(plane + <usize>i) / 255)))
  }
}

/** 0…255 as factors: 255 is all but one. */
// @ts-ignore: decorator
@inline
function factorOf(bytes: v128): v128 {
  // 128 and a half of 15 bits for each.
  return i16x8.add(i16x8.shl(bytes, 7), i16x8.shr_u(bytes, 1))
}

/** The least (`most` 0) or the most (1) within `radius` pixels along rows, or columns with `down` 1. */
export function spreadCover(src: usize, dst: usize, w: i32, h: i32, radius: i32, most: i32, down: i32): void {
  const far = (down != 0 ? h : w) - 1
  for (let y = 0; y < h; y++) {
    let x = 0
    while (x < w) {
      const c = down != 0 ? y : x
      const p = src + <usize>(y * w + x)
      const step = down != 0 ? w : 1
      // Sixteen at once where no edge is near.
      if (x + 16 <= w && (down != 0 || (x >= radius && x + 15 + radius <= far))) {
        let found = v128.load(p)
        const from = down != 0 ? max(-radius, -c) : -radius
        const to = down != 0 ? min(radius, far - c) : radius
        for (let k = from; k <= to; k++) {
          const other = v128.load(p + <usize>(k * step))
          found = most != 0 ? i8x16.max_u(found, other) : i8x16.min_u(found, other)
        }
        v128.store(dst + <usize>(y * w + x), found)
        x += 16
        continue
      }
      let found = <i32>load<u8>(p)
      for (let k = max(-radius, -c), end = min(radius, far - c); k <= end; k++) {
        const v = <i32>load<u8>(p + <usize>(k * step))
        found = most != 0 ? max(found, v) : min(found, v)
      }
      store<u8>(dst + <usize>(y * w + x), <u8>found)
      x++
    }
  }
}

/** Mean of eight sums of less than 2^12 of `width` values, `per` 2^22 parts of one. */
// @ts-ignore: decorator
@inline
function meanOf(sums: v128, half: v128, per: v128): v128 {
  const rounded = i16x8.add(sums, half)
  const low = i32x4.shr_u(i32x4.mul(i32x4.extend_low_i16x8_u(rounded), per), 22)
  const high = i32x4.shr_u(i32x4.mul(i32x4.extend_high_i16x8_u(rounded), per), 22)
  return i16x8.narrow_i32x4_s(low, high)
}

/** Radius up to which neighbours are added up anew for each pixel, eight pixels at once. */
const NEAR = 4

/**
 * The mean within `radius` pixels along rows, or columns with `down` 1; sums of a row are kept at `sums`, w × 4 bytes.
 */
export function softenCover(src: usize, dst: usize, w: i32, h: i32, radius: i32, down: i32, sums: usize): void {
  const width = 2 * radius + 1
  // Whole-number division by a multiplication: exact for sums below 2^16.
  const per = <u32>(((1 << 22) + width - 1) / width)
  if (radius <= NEAR) softenNear(src, dst, w, h, radius, down, per)
  else if (down != 0) softenColumns(src, dst, w, h, radius, per, sums)
  else softenRows(src, dst, w, h, radius, per)
}

function softenNear(src: usize, dst: usize, w: i32, h: i32, radius: i32, down: i32, per: u32): void {
  const half = i16x8.splat(<i16>radius)
  const each = i32x4.splat(per)
  for (let y = 0; y < h; y++) {
    let x = 0
    while (x < w) {
      const p = src + <usize>(y * w + x)
      const out = dst + <usize>(y * w + x)
      if (x + 8 <= w && (down != 0 || (x >= radius && x + 8 + radius <= w))) {
        let sum = v128.load8x8_u(p)
        for (let k = 1; k <= radius; k++) {
          const before = down != 0 ? src + <usize>(max(y - k, 0) * w + x) : p - <usize>k
          const after = down != 0 ? src + <usize>(min(y + k, h - 1) * w + x) : p + <usize>k
          sum = i16x8.add(sum, i16x8.add(v128.load8x8_u(before), v128.load8x8_u(after)))
        }
        const mean = meanOf(sum, half, each)
        v128.store64_lane(out, i8x16.narrow_i16x8_u(mean, mean), 0)
        x += 8
        continue
      }
      let sum = <u32>load<u8>(p)
      for (let k = 1; k <= radius; k++) {
        const before = down != 0 ? max(y - k, 0) * w + x : y * w + max(x - k, 0)
        const after = down != 0 ? min(y + k, h - 1) * w + x : y * w + min(x + k, w - 1)
        sum += <u32>load<u8>(src + <usize>before) + <u32>load<u8>(src + <usize>after)
      }
      store<u8>(out, <u8>(((sum + <u32>radius) * per) >> 22))
      x++
    }
  }
}

function softenColumns(src: usize, dst: usize, w: i32, h: i32, radius: i32, per: u32, sums: usize): void {
  const last = src + <usize>((h - 1) * w)
  for (let x = 0; x < w; x++) {
    let sum = <i32>load<u8>(src + <usize>x) * (radius + 1)
    for (let i = 1; i <= radius; i++) sum += <i32>load<u8>((i < h ? src + <usize>(i * w) : last) + <usize>x)
    store<i32>(sums + <usize>x * 4, sum)
  }
  const half = i32x4.splat(radius)
  const each = i32x4.splat(per)
  for (let y = 0; y < h; y++) {
    const ahead = y + radius + 1 < h ? src + <usize>((y + radius + 1) * w) : last
    const behind = y - radius > 0 ? src + <usize>((y - radius) * w) : src
    const out = dst + <usize>(y * w)
    let x: usize = 0
    for (; x + 4 <= <usize>w; x += 4) {
      const sum = v128.load(sums + x * 4)
      const mean = i32x4.shr_u(i32x4.mul(i32x4.add(sum, half), each), 22)
      const words = i16x8.narrow_i32x4_s(mean, mean)
      v128.store32_lane(out + x, i8x16.narrow_i16x8_u(words, words), 0)
      v128.store(sums + x * 4, i32x4.sub(i32x4.add(sum, four(ahead + x)), four(behind + x)))
    }
    for (; x < <usize>w; x++) {
      const sum = load<i32>(sums + x * 4)
      store<u8>(out + x, <u8>((<u32>(sum + radius) * per) >> 22))
      store<i32>(sums + x * 4, sum + <i32>load<u8>(ahead + x) - <i32>load<u8>(behind + x))
    }
  }
}

/** Four bytes as whole numbers. */
// @ts-ignore: decorator
@inline
function four(p: usize): v128 {
  return i32x4.extend_low_i16x8_u(i16x8.extend_low_i8x16_u(v128.load32_zero(p)))
}

function softenRows(src: usize, dst: usize, w: i32, h: i32, radius: i32, per: u32): void {
  for (let y = 0; y < h; y++) {
    const from = src + <usize>(y * w)
    const to = dst + <usize>(y * w)
    const first = <i32>load<u8>(from)
    const last = <i32>load<u8>(from + <usize>(w - 1))
    let sum = first * (radius + 1)
    for (let i = 1; i <= radius; i++) sum += i < w ? <i32>load<u8>(from + <usize>i) : last
    for (let x = 0; x < w; x++) {
      store<u8>(to + <usize>x, <u8>((<u32>(sum + radius) * per) >> 22))
      const ahead = x + radius + 1
      const behind = x - radius
      sum += ahead < w ? <i32>load<u8>(from + <usize>ahead) : last
      sum -= behind > 0 ? <i32>load<u8>(from + <usize>behind) : first
    }
  }
}

/** Coverage stretched so that `low` becomes nothing and `high` all (0…255). */
export function stretchCover(plane: usize, n: i32, low: f32, high: f32): void {
  const per: f32 = 255 / max<f32>(high - low, 1)
  const from = f32x4.splat(low)
  const times = f32x4.splat(per)
  let i: usize = 0
  for (const end = <usize>(n & ~3); i < end; i += 4) {
    const value = f32x4.convert_i32x4_s(four(plane + i))
    storeCover(plane + i, f32x4.mul(f32x4.sub(value, from), times), 4)
  }
  for (; i < <usize>n; i++) {
    const v = (<f32>load<u8>(plane + i) - low) * per
    store<u8>(plane + i, <u8>nearest<f32>(min<f32>(max<f32>(v, 0), 255)))
  }
}

/** Pixels are as opaque again as they were before something smeared them over their edges. */
export function keepAlpha(pixels: usize, before: usize, n: i32): void {
  for (let p = pixels, q = before, end = pixels + <usize>n * 4; p < end; p += 4, q += 4) {
    const now = load<u8>(p, 3)
    const was = load<u8>(q, 3)
    if (now >= was || now == 0) continue
    storePixel(p, f32x4.mul(loadPixel(p), f32x4.splat(<f32>was / <f32>now)))
  }
}
