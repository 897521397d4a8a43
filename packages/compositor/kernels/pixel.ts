// Helpers shared by kernels that work on one pixel at a time: in floats, or in 8.7 fixed point, where 255 is 32640 and
// a factor of one is 32767 (products by q15mulr round once).

/** Four channels of a pixel as 0…255 in floats. */
// @ts-ignore: decorator
@inline
export function loadPixel(p: usize): v128 {
  return f32x4.convert_i32x4_u(i32x4.extend_low_i16x8_u(i16x8.extend_low_i8x16_u(v128.load32_zero(p))))
}

/** Writes four channels, rounded to nearest and held within 0…255. */
// @ts-ignore: decorator
@inline
export function storePixel(p: usize, value: v128): void {
  const words = i32x4.trunc_sat_f32x4_s(f32x4.nearest(value))
  const half = i16x8.narrow_i32x4_s(words, words)
  v128.store32_lane(p, i8x16.narrow_i16x8_u(half, half), 0)
}

/** Four pixels as they lie there, or as many as are left of them and nothing. */
// @ts-ignore: decorator
@inline
export function loadFour(p: usize, left: i32): v128 {
  return left >= 4
    ? v128.load(p)
    : i32x4(load<i32>(p), left > 1 ? load<i32>(p, 4) : 0, left > 2 ? load<i32>(p, 8) : 0, 0)
}

/** Writes four pixels, or as many as are left. */
// @ts-ignore: decorator
@inline
export function storeFourPixels(p: usize, four: v128, left: i32): void {
  if (left >= 4) {
    v128.store(p, four)
    return
  }
  v128.store32_lane(p, four, 0)
  if (left > 1) v128.store32_lane(p, four, 1, 4)
  if (left > 2) v128.store32_lane(p, four, 2, 8)
}

/** A channel of four pixels, as whole numbers: 0 red, 8 green, 16 blue, 24 alpha. */
// @ts-ignore: decorator
@inline
export function channel(four: v128, shift: i32): v128 {
  return shift == 24 ? i32x4.shr_u(four, 24) : v128.and(i32x4.shr_u(four, shift), i32x4.splat(255))
}

/** Four pixels of their channels, each of 0…255. */
// @ts-ignore: decorator
@inline
export function packed(r: v128, g: v128, b: v128, a: v128): v128 {
  return v128.or(v128.or(r, i32x4.shl(g, 8)), v128.or(i32x4.shl(b, 16), i32x4.shl(a, 24)))
}

/** Luma of four pixels, 0…255 (weights of ITU-R BT.709 in 256ths), as {@link lumaAt} of `edge.ts`. */
// @ts-ignore: decorator
@inline
export function lumaOf(r: v128, g: v128, b: v128): v128 {
  const sum = i32x4.add(i32x4.mul(r, i32x4.splat(54)), i32x4.mul(g, i32x4.splat(183)))
  return i32x4.shr_u(i32x4.add(sum, i32x4.mul(b, i32x4.splat(19))), 8)
}

/** A pixel's alpha in all four lanes. */
// @ts-ignore: decorator
@inline
export function alphaOf(pixel: v128): v128 {
  return v128.shuffle<i32>(pixel, pixel, 3, 3, 3, 3)
}

// @ts-ignore: decorator
@inline
export function unit(value: f32): f32 {
  return min<f32>(max<f32>(value, 0), 1)
}

/** A factor of 0…1 in all lanes of fixed point. */
// @ts-ignore: decorator
@inline
export function factor(value: f32): v128 {
  return i16x8.splat(<i16>(value * 32767 + <f32>0.5))
}

/** Two pixels in 8.7 fixed point. */
// @ts-ignore: decorator
@inline
export function loadTwo(p: usize): v128 {
  return i16x8.shl(i16x8.extend_low_i8x16_u(v128.load64_zero(p)), 7)
}

/** Writes two pixels from 8.7 fixed point. */
// @ts-ignore: decorator
@inline
export function storeTwo(p: usize, value: v128): void {
  const words = i16x8.shr_s(i16x8.add_sat_s(value, i16x8.splat(64)), 7)
  v128.store64_lane(p, i8x16.narrow_i16x8_u(words, words), 0)
}

/** Writes the first of two pixels. */
// @ts-ignore: decorator
@inline
export function storeOne(p: usize, value: v128): void {
  const words = i16x8.shr_s(i16x8.add_sat_s(value, i16x8.splat(64)), 7)
  v128.store32_lane(p, i8x16.narrow_i16x8_u(words, words), 0)
}

/** The alphas of two pixels in fixed point as factors: 32640 becomes all but one. */
// @ts-ignore: decorator
@inline
export function alphaFactor(two: v128): v128 {
  const a = v128.shuffle<i16>(two, two, 3, 3, 3, 3, 7, 7, 7, 7)
  return i16x8.add(a, i16x8.shr_u(a, 8))
}

let holder: v128 = i32x4.splat(0)

/**
 * A value worked out once before a loop. Written down and read back: engines otherwise work it out again on every turn,
 * since to them it looks cheaper than keeping it.
 */
// @ts-ignore: decorator
@inline
export function held(value: v128): v128 {
  holder = value
  return holder
}

let heldWord: i64 = 0

/** {@link held} for whole numbers. */
// @ts-ignore: decorator
@inline
export function heldInt(value: i64): i64 {
  heldWord = value
  return heldWord
}

/** The way down between two rows of two pixels each, in 8.7 fixed point; `fv` of 0…32767. */
// @ts-ignore: decorator
@inline
function between(at: usize, below: usize, fv: i32): v128 {
  const top = loadTwo(at)
  return i16x8.add(top, i16x8.q15mulr_sat_s(i16x8.sub(loadTwo(at + below), top), i16x8.splat(<i16>fv)))
}

/**
 * A pixel between four: bilinear, in 8.7 fixed point, in the lower four lanes. `at` is the upper left one, `below` the
 * way to the next row in bytes; (fu, fv) of 0…32767 are how far to go towards the right and the lower ones.
 */
// @ts-ignore: decorator
@inline
export function sample(at: usize, below: usize, fu: i32, fv: i32): v128 {
  const left = between(at, below, fv)
  const right = v128.shuffle<i64>(left, left, 1, 1)
  return i16x8.add(left, i16x8.q15mulr_sat_s(i16x8.sub(right, left), i16x8.splat(<i16>fu)))
}

/** Two pixels at once, each between four of its own; the same values as {@link sample} gives one by one. */
// @ts-ignore: decorator
@inline
function sampleTwo(at0: usize, at1: usize, below: usize, fu0: i32, fv0: i32, fu1: i32, fv1: i32): v128 {
  const first = between(at0, below, fv0)
  const second = between(at1, below, fv1)
  const left = v128.shuffle<i64>(first, second, 0, 2)
  const right = v128.shuffle<i64>(first, second, 1, 3)
  const fu = v128.shuffle<i64>(i16x8.splat(<i16>fu0), i16x8.splat(<i16>fu1), 0, 2)
  return i16x8.add(left, i16x8.q15mulr_sat_s(i16x8.sub(right, left), fu))
}

/**
 * The pixels at (u, v) and one step on, in source pixels with 32 bits of fraction. All of their neighbours have to be
 * there.
 */
// @ts-ignore: decorator
@inline
export function sampleAlong(src: usize, stride: i32, u: i64, v: i64, stepU: i64, stepV: i64): v128 {
  const nu = u + stepU
  const nv = v + stepV
  return sampleTwo(
    src + <usize>(<i32>(v >> 32) * stride + <i32>(u >> 32) * 4),
    src + <usize>(<i32>(nv >> 32) * stride + <i32>(nu >> 32) * 4),
    stride,
    <i32>((u >> 17) & 0x7fff),
    <i32>((v >> 17) & 0x7fff),
    <i32>((nu >> 17) & 0x7fff),
    <i32>((nv >> 17) & 0x7fff),
  )
}

/** Lays two pixels in fixed point over those at `p`. */
// @ts-ignore: decorator
@inline
export function layTwoOver(p: usize, s: v128): void {
  if (i16x8.extract_lane_s(s, 3) >= 32576 && i16x8.extract_lane_s(s, 7) >= 32576) {
    storeTwo(p, s)
    return
  }
  const inverse = i16x8.sub(i16x8.splat(32640), v128.shuffle<i16>(s, s, 3, 3, 3, 3, 7, 7, 7, 7))
  const rest = i16x8.add(inverse, i16x8.shr_u(inverse, 8))
  storeTwo(p, i16x8.add_sat_s(s, i16x8.q15mulr_sat_s(loadTwo(p), rest)))
}

/** Lays a pixel in fixed point over the one at `p`. */
// @ts-ignore: decorator
@inline
export function layOver(p: usize, s: v128): void {
  if (i16x8.extract_lane_s(s, 3) >= 32576) {
    storeOne(p, s)
    return
  }
  const d = i16x8.shl(i16x8.extend_low_i8x16_u(v128.load32_zero(p)), 7)
  const a = v128.shuffle<i16>(s, s, 3, 3, 3, 3, 3, 3, 3, 3)
  const inverse = i16x8.sub(i16x8.splat(32640), a)
  const rest = i16x8.add(inverse, i16x8.shr_u(inverse, 8))
  storeOne(p, i16x8.add_sat_s(s, i16x8.q15mulr_sat_s(d, rest)))
}
