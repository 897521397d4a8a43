// What effects need besides colours: edges drawn sharper, corners darkened, grain.
import { alphaOf, loadPixel, loadTwo, storeOne, storePixel, storeTwo } from './pixel'

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
    const sharp = f32x4.min(f32x4.max(f32x4.add(pixel, more), f32x4.splat(0)), alphaOf(pixel))
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
  for (let y = y0; y < y1; y++) {
    const dy = (<f32>y + 0.5 - cy) / ry
    const down = dy * dy
    let p = pixels + <usize>(y * w) * 4
    for (let x = 0; x < w; x++, p += 4) {
      const dx = (<f32>x + 0.5 - cx) * perX
      const i = min(<i32>((dx * dx + down) * scale), entries - 1)
      const part = load<i16>(table + <usize>i * 2)
      if (part == 0) continue
      const pixel = i16x8.shl(i16x8.extend_low_i8x16_u(v128.load32_zero(p)), 7)
      const by = i16x8(part, part, part, 0, 0, 0, 0, 0)
      const way = lighten != 0 ? i16x8.sub(v128.shuffle<i16>(pixel, pixel, 3, 3, 3, 3, 3, 3, 3, 3), pixel) : pixel
      const change = i16x8.q15mulr_sat_s(way, by)
      storeOne(p, lighten != 0 ? i16x8.add(pixel, change) : i16x8.sub(pixel, change))
    }
  }
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
    for (let x = 0; x < w; x++, p += 4, u += per) {
      const alpha = <i32>load<u8>(p, 3)
      if (alpha == 0) continue
      const noise = row + <usize>((((u >> 16) + ox) & (TILE - 1)) << 2)
      const grey = <i32>load<i8>(noise) * (256 - own)
      const l = (<i32>load<u8>(p) + 2 * <i32>load<u8>(p, 1) + <i32>load<u8>(p, 2)) >> 2
      if (alpha == 255) {
        // The same in whole numbers, for what is opaque.
        const k = ((90 + ((l * (255 - l) * 2685) >> 18)) * whole) >> 8
        const all = i32x4(
          grey + <i32>load<i8>(noise, 1) * own,
          grey + <i32>load<i8>(noise, 3) * own,
          grey + <i32>load<i8>(noise, 2) * own,
          0,
        )
        const more = i32x4.shr_s(i32x4.add(i32x4.mul(all, i32x4.splat(k)), i32x4.splat(32768)), 16)
        const out = i32x4.add(i32x4.extend_low_i16x8_u(i16x8.extend_low_i8x16_u(v128.load32_zero(p))), more)
        const half = i16x8.narrow_i32x4_s(out, out)
        v128.store32_lane(p, i8x16.narrow_i16x8_u(half, half), 0)
        continue
      }
      // A third of it in black and white, all of it half way between.
      const strength = (90 + ((l * (alpha - l) * 666) / (alpha * alpha))) * alpha
      const by = (<f32>strength * amount) / 2130739200
      const pixel = loadPixel(p)
      const mix = i32x4(grey, grey, grey, 0)
      const each = i32x4(<i32>load<i8>(noise, 1), <i32>load<i8>(noise, 3), <i32>load<i8>(noise, 2), 0)
      const sum = f32x4.convert_i32x4_s(i32x4.add(mix, i32x4.mul(each, i32x4.splat(own))))
      const within = f32x4.min(
        f32x4.max(f32x4.add(pixel, f32x4.mul(sum, f32x4.splat(by))), f32x4.splat(0)),
        f32x4.splat(<f32>alpha),
      )
      storePixel(p, v128.shuffle<i32>(within, pixel, 0, 1, 2, 7))
    }
  }
}
