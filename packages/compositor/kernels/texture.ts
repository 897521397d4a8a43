// What effects need besides colours: edges drawn sharper, corners darkened, grain.
import { alphaOf, channel, loadPixel, loadTwo, packed, storeOne, storePixel, storeTwo } from './pixel'

/**
 * Draws edges sharper: each pixel goes away from a blurred copy, colour held within alpha.
 * @param amount 1 doubles the difference; at most 8
 */
export function unsharp(src: usize, blurred: usize, dst: usize, n: i32, amount: f32): void {
  const times = <i32>amount
  const part = i16x8.splat(<i16>((amount - <f32>times) * 32767))
  const zero = i16x8.splat(0)
  const alphas = i16x8(0, 0, 0, -1, 0, 0, 0, -1)
  let i: usize = 0
  for (const end = <usize>(n & ~1) * 4; i < end; i += 8) {
    const two = loadTwo(src + i)
    // Half of it, so that nothing runs over while it is added up.
    const pixel = i16x8.shr_s(two, 2)
    const off = i16x8.sub(pixel, i16x8.shr_s(loadTwo(blurred + i), 2))
    let sharp = i16x8.add(pixel, i16x8.q15mulr_sat_s(off, part))
    for (let k = 0; k < times; k++) sharp = i16x8.add_sat_s(sharp, off)
    const alpha = i16x8.shr_s(v128.shuffle<i16>(two, two, 3, 3, 3, 3, 7, 7, 7, 7), 2)
    const held = i16x8.shl(i16x8.min_s(i16x8.max_s(sharp, zero), alpha), 2)
    storeTwo(dst + i, v128.bitselect(two, held, alphas))
  }
  if (n & 1) {
    const by = f32x4.splat(amount)
    const pixel = loadPixel(src + i)
    const more = f32x4.mul(f32x4.sub(pixel, loadPixel(blurred + i)), by)
    const sharp = f32x4.pmin(f32x4.pmax(f32x4.add(pixel, more), f32x4.splat(0)), alphaOf(pixel))
    storePixel(dst + i, v128.shuffle<i32>(sharp, pixel, 0, 1, 2, 7))
  }
}

/**
 * Darkens or lightens what lies outside an ellipse, on rows y0 … y1.
 * @param cx middle in pixels; `rx`, `ry` half axes
 * @param table how much at a square of the distance, in half axes: `entries` numbers of 0…32767 for 0 to `most`
 * @param lighten 1 goes towards white, 0 towards black
 */
export function vignette(
  pixels: usize,
  w: i32,
  y0: i32,
  y1: i32,
  cx: f32,
  cy: f32,
  rx: f32,
  ry: f32,
  table: usize,
  entries: i32,
  most: f32,
  lighten: i32,
): void {
  const scale: f32 = <f32>(entries - 1) / most
  const perX: f32 = 1 / rx
  const last = i32x4.splat(entries - 1)
  for (let y = y0; y < y1; y++) {
    const dy = (<f32>y + 0.5 - cy) / ry
    const down = f32x4.splat(dy * dy)
    let p = pixels + <usize>(y * w) * 4
    let dx = f32x4.mul(f32x4.sub(f32x4(0.5, 1.5, 2.5, 3.5), f32x4.splat(cx)), f32x4.splat(perX))
    for (let x = 0; x < w; x += 4, p += 16, dx = f32x4.add(dx, f32x4.splat(4 * perX))) {
      const square = f32x4.add(f32x4.mul(dx, dx), down)
      const at = i32x4.shl(i32x4.min_s(i32x4.trunc_sat_f32x4_s(f32x4.mul(square, f32x4.splat(scale))), last), 1)
      const parts = i32x4(
        load<i16>(table + <usize>i32x4.extract_lane(at, 0)),
        load<i16>(table + <usize>i32x4.extract_lane(at, 1)),
        load<i16>(table + <usize>i32x4.extract_lane(at, 2)),
        load<i16>(table + <usize>i32x4.extract_lane(at, 3)),
      )
      if (!v128.any_true(parts)) continue
      // Each part for three channels; alpha stays.
      const low = i8x16.swizzle(parts, i8x16(0, 1, 0, 1, 0, 1, -1, -1, 4, 5, 4, 5, 4, 5, -1, -1))
      const high = i8x16.swizzle(parts, i8x16(8, 9, 8, 9, 8, 9, -1, -1, 12, 13, 12, 13, 12, 13, -1, -1))
      const left = w - x
      if (left >= 4) {
        storeTwo(p, shaded(loadTwo(p), low, lighten))
        storeTwo(p + 8, shaded(loadTwo(p + 8), high, lighten))
        continue
      }
      storeOne(p, shaded(single(p), low, lighten))
      if (left > 1) storeOne(p + 4, shaded(single(p + 4), v128.shuffle<i64>(low, low, 1, 1), lighten))
      if (left > 2) storeOne(p + 8, shaded(single(p + 8), high, lighten))
    }
  }
}

/** One pixel in 8.7 fixed point. */
// @ts-ignore: decorator
@inline
function single(p: usize): v128 {
  return i16x8.shl(i16x8.extend_low_i8x16_u(v128.load32_zero(p)), 7)
}

/** Towards black, or with `lighten` 1 towards white, by its own parts of the way. */
// @ts-ignore: decorator
@inline
function shaded(two: v128, by: v128, lighten: i32): v128 {
  if (lighten == 0) return i16x8.sub(two, i16x8.q15mulr_sat_s(two, by))
  const way = i16x8.sub(v128.shuffle<i16>(two, two, 3, 3, 3, 3, 7, 7, 7, 7), two)
  return i16x8.add(two, i16x8.q15mulr_sat_s(way, by))
}

// @ts-ignore: decorator
@inline
export function hashed(x: i32, y: i32, seed: i32): i32 {
  let h = (x * 0x1f123bb5) ^ (y * 0x5f356495) ^ (seed * 0x2545f491)
  h = (h ^ (h >>> 15)) * 0x2c1b3c6d
  h = (h ^ (h >>> 12)) * 0x297a2d39
  return h ^ (h >>> 15)
}

/** Side of a tile of noise. */
const TILE = 512

/**
 * Makes a tile of noise: for each place four signed bytes, each the sum of two dice, so that middling values come most
 * often.
 */
export function noiseTile(tile: usize, seed: i32): void {
  for (let y = 0; y < TILE; y++)
    for (let x = 0; x < TILE; x++) {
      const h = hashed(x, y, seed)
      const k = hashed(y, x, seed + 7)
      const p = tile + <usize>(y * TILE + x) * 4
      store<i8>(p, <i8>((((h & 255) + ((h >>> 8) & 255)) >> 1) - 127))
      store<i8>(p, <i8>((((k & 255) + ((k >>> 8) & 255)) >> 1) - 127), 1)
      store<i8>(p, <i8>((((k >>> 16) & 255) + (k >>> 24)) >> 1) - 127, 2)
      store<i8>(p, <i8>((((h >>> 16) & 255) + (h >>> 24)) >> 1) - 127, 3)
    }
}

/**
 * Adds noise in cells of `size` pixels on rows y0 … y1, strongest in the middle tones, as on film. The tile lies
 * elsewhere for each seed.
 * @param tile what {@link noiseTile} made
 * @param amount in values of 0 … 255; `colour` 0 the same for all channels, 1 each its own
 */
export function grain(
  pixels: usize,
  w: i32,
  y0: i32,
  y1: i32,
  tile: usize,
  seed: i32,
  size: f32,
  amount: f32,
  colour: f32,
): void {
  const per = <i32>(<f32>65536 / size)
  const ox = hashed(seed, 1, 5)
  const oy = hashed(seed, 2, 5)
  const own = <i32>(colour * 256)
  const whole = <i32>((amount * 512) / 255)
  for (let y = y0; y < y1; y++) {
    const row = tile + <usize>((((((y * per) >> 16) + oy) & (TILE - 1)) * TILE) << 2)
    let p = pixels + <usize>(y * w) * 4
    let u = 0
    for (let x = 0; x < w; ) {
      if (x + 4 <= w) {
        const four = v128.load(p)
        if (i32x4.all_true(i32x4.eq(channel(four, 24), i32x4.splat(255)))) {
          v128.store(p, grainFour(four, noiseFour(row, u, per, ox), own, whole))
          x += 4
          p += 16
          u += 4 * per
          continue
        }
      }
      grainOne(p, row + <usize>((((u >> 16) + ox) & (TILE - 1)) << 2), own, amount)
      x++
      p += 4
      u += per
    }
  }
}

/** Noise for four pixels, from `u` on in steps of `per`. */
// @ts-ignore: decorator
@inline
function noiseFour(row: usize, u: i32, per: i32, ox: i32): v128 {
  const first = ((u >> 16) + ox) & (TILE - 1)
  if (per == 65536 && first <= TILE - 4) return v128.load(row + <usize>(first << 2))
  return i32x4(
    load<i32>(row + <usize>(first << 2)),
    load<i32>(row + <usize>(((((u + per) >> 16) + ox) & (TILE - 1)) << 2)),
    load<i32>(row + <usize>(((((u + 2 * per) >> 16) + ox) & (TILE - 1)) << 2)),
    load<i32>(row + <usize>(((((u + 3 * per) >> 16) + ox) & (TILE - 1)) << 2)),
  )
}

/** Four opaque pixels with noise, in whole numbers. */
// @ts-ignore: decorator
@inline
function grainFour(four: v128, noise: v128, own: i32, whole: i32): v128 {
  const r = channel(four, 0)
  const g = channel(four, 8)
  const b = channel(four, 16)
  const l = i32x4.shr_u(i32x4.add(i32x4.add(r, b), i32x4.add(g, g)), 2)
  // A third of it in black and white, all of it half way between. All of these factors have 15 bits at most, which
  // are multiplied by twos, the upper ones nothing, in half the time.
  const middle = i32x4.dot_i16x8_s(l, i32x4.sub(i32x4.splat(255), l))
  const part = i32x4.shr_s(i32x4.dot_i16x8_s(middle, i32x4.splat(2685)), 18)
  const k = i32x4.shr_s(i32x4.dot_i16x8_s(i32x4.add(part, i32x4.splat(90)), i32x4.splat(whole)), 8)
  const grey = i32x4.shr_s(i32x4.shl(noise, 24), 24)
  const full = i32x4.splat(255)
  if (own == 0) {
    const more = i32x4.shr_s(i32x4.add(i32x4.dot_i16x8_s(grey, k), i32x4.splat(128)), 8)
    return packed(bounded(r, more), bounded(g, more), bounded(b, more), full)
  }
  const all = i32x4.mul(grey, i32x4.splat(256 - own))
  const each = i32x4.splat(own)
  const red = i32x4.add(all, i32x4.mul(i32x4.shr_s(i32x4.shl(noise, 16), 24), each))
  const green = i32x4.add(all, i32x4.mul(i32x4.shr_s(noise, 24), each))
  const blue = i32x4.add(all, i32x4.mul(i32x4.shr_s(i32x4.shl(noise, 8), 24), each))
  return packed(bounded(r, moreOf(red, k)), bounded(g, moreOf(green, k)), bounded(b, moreOf(blue, k)), full)
}

// @ts-ignore: decorator
@inline
function moreOf(noise: v128, k: v128): v128 {
  return i32x4.shr_s(i32x4.add(i32x4.mul(noise, k), i32x4.splat(32768)), 16)
}

// @ts-ignore: decorator
@inline
function bounded(value: v128, more: v128): v128 {
  return i32x4.min_s(i32x4.max_s(i32x4.add(value, more), i32x4.splat(0)), i32x4.splat(255))
}

/** A pixel that is not wholly opaque: noise as far as it is there, held within alpha. */
function grainOne(p: usize, noise: usize, own: i32, amount: f32): void {
  const alpha = <i32>load<u8>(p, 3)
  if (alpha == 0) return
  const grey = <i32>load<i8>(noise) * (256 - own)
  const l = (<i32>load<u8>(p) + 2 * <i32>load<u8>(p, 1) + <i32>load<u8>(p, 2)) >> 2
  const strength = (90 + ((l * (alpha - l) * 666) / (alpha * alpha))) * alpha
  const by = (<f32>strength * amount) / 2130739200
  const pixel = loadPixel(p)
  const mix = i32x4(grey, grey, grey, 0)
  const each = i32x4(<i32>load<i8>(noise, 1), <i32>load<i8>(noise, 3), <i32>load<i8>(noise, 2), 0)
  const sum = f32x4.convert_i32x4_s(i32x4.add(mix, i32x4.mul(each, i32x4.splat(own))))
  const held = f32x4.pmin(
    f32x4.pmax(f32x4.add(pixel, f32x4.mul(sum, f32x4.splat(by))), f32x4.splat(0)),
    f32x4.splat(<f32>alpha),
  )
  storePixel(p, v128.shuffle<i32>(held, pixel, 0, 1, 2, 7))
}
