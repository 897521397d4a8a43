// Two pictures into one: by one weight for all pixels, by a map, or by adding up many.
import { alphaFactor, factor, loadPixel, loadTwo, storeOne, storePixel, storeTwo, unit } from './pixel'

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
  for (let i = 0; i < n; i++) {
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

/** A map from a picture's light: u16 of Rec. 709 luma, turned round with `invert`. */
export function lightMap(src: usize, map: usize, n: i32, invert: i32): void {
  for (let i = 0; i < n; i++) {
    const p = src + <usize>i * 4
    const y: i32 = (54 * <i32>load<u8>(p) + 183 * <i32>load<u8>(p + 1) + 19 * <i32>load<u8>(p + 2)) * 257 >> 8
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
  const light = i16x8(<i16>(r * 128), <i16>(g * 128), <i16>(b * 128), 0, <i16>(r * 128), <i16>(g * 128), <i16>(b * 128), 0)
  for (let i = 0; i < n; i += 2) {
    const p = pixels + <usize>i * 4
    const own = loadTwo(p)
    const alpha = v128.shuffle<i16>(own, own, 3, 3, 3, 3, 7, 7, 7, 7)
    const lit = i16x8.add_sat_s(own, i16x8.q15mulr_sat_s(light, alphaFactor(own)))
    put(p, i16x8.min_s(i16x8.max_s(lit, i16x8.splat(0)), alpha), i + 2 <= n)
  }
}

/** Goes towards a colour by `amount` (0…1), as far as each pixel is solid. */
export function towards(pixels: usize, n: i32, r: f32, g: f32, b: f32, amount: f32): void {
  const colour = i16x8(<i16>(r * 128), <i16>(g * 128), <i16>(b * 128), 32640, <i16>(r * 128), <i16>(g * 128), <i16>(b * 128), 32640) // prettier-ignore
  const k = factor(amount)
  for (let i = 0; i < n; i += 2) {
    const p = pixels + <usize>i * 4
    const own = loadTwo(p)
    const goal = i16x8.q15mulr_sat_s(colour, alphaFactor(own))
    put(p, i16x8.add(own, i16x8.q15mulr_sat_s(i16x8.sub(goal, own), k)), i + 2 <= n)
  }
}

/** Multiplies all four channels by a factor of 0…1. */
export function thin(pixels: usize, n: i32, amount: f32): void {
  const k = factor(amount)
  for (let i = 0; i < n; i += 2)
    put(pixels + <usize>i * 4, i16x8.q15mulr_sat_s(loadTwo(pixels + <usize>i * 4), k), i + 2 <= n)
}

// @ts-ignore: decorator
@inline
function put(p: usize, value: v128, two: bool): void {
  if (two) storeTwo(p, value)
  else storeOne(p, value)
}
