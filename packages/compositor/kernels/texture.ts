// What effects need besides colours: edges drawn sharper, corners darkened, grain.
import { loadPixel, storeOne, storePixel } from './pixel'

/**
 * Draws edges sharper: each pixel goes away from a blurred copy, colour held within alpha.
 * @param amount 1 doubles the difference
 */
export function unsharp(src: usize, blurred: usize, dst: usize, n: i32, amount: f32): void {
  const by = f32x4.splat(amount)
  const zero = f32x4.splat(0)
  for (let i: usize = 0, end = <usize>n * 4; i < end; i += 4) {
    const pixel = loadPixel(src + i)
    const more = f32x4.mul(f32x4.sub(pixel, loadPixel(blurred + i)), by)
    const alpha = v128.shuffle<i32>(pixel, pixel, 3, 3, 3, 3)
    const sharp = f32x4.min(f32x4.max(f32x4.add(pixel, more), zero), alpha)
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
