// Two pictures into one: by one weight for all pixels, by a map, or by adding up many.
import { alphaFactor, factor, held, loadPixel, loadTwo, storeOne, storePixel, storeTwo, unit } from './pixel'

/** dst = a + (b − a)·weight for `n` pixels; `weight` 0…32768. */
export function dissolve(a: usize, b: usize, dst: usize, n: i32, weight: i32): void {
  const w = i16x8.splat(<i16>min(weight, 32767))
  const half = i16x8.splat(64)
  let i = 0
  for (; i + 2 <= n; i += 2) {
    const x = i16x8.shl(i16x8.extend_low_i8x16_u(v128.load64_zero(a + <usize>i * 4)), 7)
    const y = i16x8.shl(i16x8.extend_low_i8x16_u(v128.load64_zero(b + <usize>i * 4)), 7)
    const mixed = i16x8.add(x, i16x8.q15mulr_sat_s(i16x8.sub(y, x), w))
    const words = i16x8.shr_u(i16x8.add_sat_s(mixed, half), 7)
    v128.store64_lane(dst + <usize>i * 4, i8x16.narrow_i16x8_u(words, words), 0)
  }
  if (i < n) {
    const k = f32x4.splat(<f32>weight / 32768)
    const x = loadPixel(a + <usize>i * 4)
    storePixel(dst + <usize>i * 4, f32x4.add(x, f32x4.mul(f32x4.sub(loadPixel(b + <usize>i * 4), x), k)))
  }
}

/**
 * dst = a where the map is yet to be reached, b where it was passed: the weight of b is (threshold − map) · steep, held
 * within 0 and 1. The map is u16, 0…65535 for 0…1. Where both show, `edge` (0…1) of an edge colour lies over them.
 */
export function mixByMap(
  a: usize,
  b: usize,
  map: usize,
  dst: usize,
  n: i32,
  threshold: f32,
  steep: f32,
  r: f32,
  g: f32,
  bl: f32,
  edge: f32,
): void {
  const scale = <f32>(1.0 / 65535.0)
  const colour = f32x4(r, g, bl, 255)
  const paint = held(solid(r, g, bl))
  const limit = held(f32x4.splat(threshold))
  const slope = held(f32x4.splat(steep))
  const edging = held(f32x4.splat(4 * edge))
  const one = f32x4.splat(1)
  let i = 0
  for (; i + 4 <= n; i += 4) {
    const m = f32x4.convert_i32x4_u(i32x4.extend_low_i16x8_u(v128.load64_zero(map + <usize>i * 2)))
    const w = f32x4.mul(f32x4.sub(limit, f32x4.mul(m, f32x4.splat(scale))), slope)
    const o = <usize>i * 4
    if (!v128.any_true(f32x4.gt(w, f32x4.splat(0)))) v128.store(dst + o, v128.load(a + o))
    else if (i32x4.all_true(f32x4.ge(w, one))) v128.store(dst + o, v128.load(b + o))
    else {
      const within = f32x4.pmin(f32x4.pmax(w, f32x4.splat(0)), one)
      const weight = parts(within)
      let low = towardsBy(loadTwo(a + o), loadTwo(b + o), v128.shuffle<i16>(weight, weight, 0, 0, 0, 0, 2, 2, 2, 2))
      let high = towardsBy(
        loadTwo(a + o + 8),
        loadTwo(b + o + 8),
        v128.shuffle<i16>(weight, weight, 4, 4, 4, 4, 6, 6, 6, 6),
      )
      if (edge > 0) {
        const k = parts(f32x4.mul(f32x4.mul(within, f32x4.sub(one, within)), edging))
        low = towardsBy(
          low,
          i16x8.q15mulr_sat_s(paint, alphaFactor(low)),
          v128.shuffle<i16>(k, k, 0, 0, 0, 0, 2, 2, 2, 2),
        )
        high = towardsBy(
          high,
          i16x8.q15mulr_sat_s(paint, alphaFactor(high)),
          v128.shuffle<i16>(k, k, 4, 4, 4, 4, 6, 6, 6, 6),
        )
      }
      storeTwo(dst + o, low)
      storeTwo(dst + o + 8, high)
    }
  }
  for (; i < n; i++) {
    const m = <f32>load<u16>(map + <usize>i * 2) * scale
    const w = unit((threshold - m) * steep)
    const o = <usize>i * 4
    if (w <= 0) {
      store<u32>(dst + o, load<u32>(a + o))
      continue
    }
    if (w >= 1) {
      store<u32>(dst + o, load<u32>(b + o))
      continue
    }
    const x = loadPixel(a + o)
    let mixed = f32x4.add(x, f32x4.mul(f32x4.sub(loadPixel(b + o), x), f32x4.splat(w)))
    if (edge > 0) {
      const k: f32 = <f32>4 * w * (<f32>1 - w) * edge
      const own = f32x4.extract_lane(mixed, 3) / 255
      mixed = f32x4.add(mixed, f32x4.mul(f32x4.sub(f32x4.mul(colour, f32x4.splat(own)), mixed), f32x4.splat(k)))
    }
    storePixel(dst + o, mixed)
  }
}

/** Factors of 0…1 as fixed point in 32-bit lanes. */
// @ts-ignore: decorator
@inline
function parts(value: v128): v128 {
  return i32x4.trunc_sat_f32x4_s(f32x4.add(f32x4.mul(value, f32x4.splat(32767)), f32x4.splat(0.5)))
}

/** From one pair of pixels towards another by their own weights. */
// @ts-ignore: decorator
@inline
function towardsBy(from: v128, to: v128, weight: v128): v128 {
  return i16x8.add(from, i16x8.q15mulr_sat_s(i16x8.sub(to, from), weight))
}

/** A solid colour twice, in 8.7 fixed point. */
// @ts-ignore: decorator
@inline
function solid(r: f32, g: f32, b: f32): v128 {
  return i16x8(
    <i16>(r * 128),
    <i16>(g * 128),
    <i16>(b * 128),
    32640,
    <i16>(r * 128),
    <i16>(g * 128),
    <i16>(b * 128),
    32640,
  )
}

/** A map from a picture's light: u16 of Rec. 709 luma, turned round with `invert`. */
export function lightMap(src: usize, map: usize, n: i32, invert: i32): void {
  for (let i = 0; i < n; i++) {
    const p = src + <usize>i * 4
    const y: i32 = ((54 * <i32>load<u8>(p) + 183 * <i32>load<u8>(p + 1) + 19 * <i32>load<u8>(p + 2)) * 257) >> 8
    store<u16>(map + <usize>i * 2, <u16>(invert ? 65535 - min(y, 65535) : min(y, 65535)))
  }
}

/** Adds `n` values (channels) of a picture to 32-bit sums. */
export function addUp(src: usize, sums: usize, n: i32): void {
  let i = 0
  for (; i + 8 <= n; i += 8) {
    const half = i16x8.extend_low_i8x16_u(v128.load64_zero(src + <usize>i))
    const p = sums + <usize>i * 4
    v128.store(p, i32x4.add(v128.load(p), i32x4.extend_low_i16x8_u(half)))
    v128.store(p + 16, i32x4.add(v128.load(p + 16), i32x4.extend_high_i16x8_u(half)))
  }
  for (; i < n; i++) store<i32>(sums + <usize>i * 4, load<i32>(sums + <usize>i * 4) + <i32>load<u8>(src + <usize>i))
}

/** Sums divided by how many there were, as pixels. */
export function average(sums: usize, dst: usize, n: i32, count: i32): void {
  const k = f32x4.splat(<f32>1 / <f32>count)
  for (let i = 0; i + 4 <= n; i += 4)
    storePixel(dst + <usize>i, f32x4.mul(f32x4.convert_i32x4_s(v128.load(sums + <usize>i * 4)), k))
}

/** Adds light of a colour, as far as each pixel is solid; negative amounts darken. Values −255…255. */
export function addLight(pixels: usize, n: i32, r: f32, g: f32, b: f32): void {
  const light = held(
    i16x8(<i16>(r * 128), <i16>(g * 128), <i16>(b * 128), 0, <i16>(r * 128), <i16>(g * 128), <i16>(b * 128), 0),
  )
  let i = 0
  for (; i + 2 <= n; i += 2) storeTwo(pixels + <usize>i * 4, lit(loadTwo(pixels + <usize>i * 4), light))
  if (i < n) storeOne(pixels + <usize>i * 4, lit(loadTwo(pixels + <usize>i * 4), light))
}

// @ts-ignore: decorator
@inline
function lit(own: v128, light: v128): v128 {
  const alpha = v128.shuffle<i16>(own, own, 3, 3, 3, 3, 7, 7, 7, 7)
  const sum = i16x8.add_sat_s(own, i16x8.q15mulr_sat_s(light, alphaFactor(own)))
  return i16x8.min_s(i16x8.max_s(sum, i16x8.splat(0)), alpha)
}

/** Goes towards a colour by `amount` (0…1), as far as each pixel is solid. */
export function towards(pixels: usize, n: i32, r: f32, g: f32, b: f32, amount: f32): void {
  const colour = held(solid(r, g, b))
  const k = held(factor(amount))
  let i = 0
  for (; i + 2 <= n; i += 2) storeTwo(pixels + <usize>i * 4, nearer(loadTwo(pixels + <usize>i * 4), colour, k))
  if (i < n) storeOne(pixels + <usize>i * 4, nearer(loadTwo(pixels + <usize>i * 4), colour, k))
}

// @ts-ignore: decorator
@inline
function nearer(own: v128, colour: v128, k: v128): v128 {
  return towardsBy(own, i16x8.q15mulr_sat_s(colour, alphaFactor(own)), k)
}

/** Multiplies all four channels by a factor of 0…1. */
export function thin(pixels: usize, n: i32, amount: f32): void {
  const k = held(factor(amount))
  let i = 0
  for (; i + 2 <= n; i += 2) storeTwo(pixels + <usize>i * 4, i16x8.q15mulr_sat_s(loadTwo(pixels + <usize>i * 4), k))
  if (i < n) storeOne(pixels + <usize>i * 4, i16x8.q15mulr_sat_s(loadTwo(pixels + <usize>i * 4), k))
}
