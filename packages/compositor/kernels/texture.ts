// What effects need besides colours: edges drawn sharper, corners darkened, grain.
import { loadPixel, storePixel, unit } from './pixel'

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
 * @param cx middle in pixels; `rx`, `ry` half axes; from the ellipse outwards it grows over `soft` of their length
 * @param amount −1 (black) to 1 (white)
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
  soft: f32,
  amount: f32,
): void {
  for (let y = y0; y < y1; y++) {
    const dy = (<f32>y + 0.5 - cy) / ry
    let p = pixels + <usize>(y * w) * 4
    for (let x = 0; x < w; x++, p += 4) {
      const dx = (<f32>x + 0.5 - cx) / rx
      const t = unit((sqrt<f32>(dx * dx + dy * dy) - 1) / soft)
      if (t <= 0) continue
      const part = t * t * (3 - 2 * t) * amount
      const pixel = loadPixel(p)
      const alpha = v128.shuffle<i32>(pixel, pixel, 3, 3, 3, 3)
      const changed =
        part < 0
          ? f32x4.mul(pixel, f32x4.splat(1 + part))
          : f32x4.add(pixel, f32x4.mul(f32x4.sub(alpha, pixel), f32x4.splat(part)))
      storePixel(p, v128.shuffle<i32>(changed, pixel, 0, 1, 2, 7))
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

/**
 * Adds noise in cells of `size` pixels on rows y0 … y1: two dice a cell, so that middling values come most often.
 * Strongest in the middle tones, as on film.
 * @param amount in values of 0 … 255; `colour` 0 the same for all channels, 1 each its own
 */
export function grain(
  pixels: usize,
  w: i32,
  y0: i32,
  y1: i32,
  seed: i32,
  size: f32,
  amount: f32,
  colour: f32,
): void {
  const per: f32 = 1 / size
  for (let y = y0; y < y1; y++) {
    const gy = <i32>(<f32>y * per)
    let p = pixels + <usize>(y * w) * 4
    for (let x = 0; x < w; x++, p += 4) {
      const alpha = <f32>load<u8>(p, 3)
      if (alpha == 0) continue
      const h = hashed(<i32>(<f32>x * per), gy, seed)
      const k = hashed(gy, <i32>(<f32>x * per), seed + 7)
      const grey = <f32>((h & 255) + ((h >> 8) & 255) - 255)
      const pixel = loadPixel(p)
      const r = <f32>((k & 255) + ((k >> 8) & 255) - 255)
      const b = <f32>(((k >> 16) & 255) + ((h >> 16) & 255) - 255)
      const one = f32x4.splat(grey * (1 - colour))
      const own = f32x4.mul(f32x4(r, grey, b, 0), f32x4.splat(colour))
      const l = (f32x4.extract_lane(pixel, 0) + 2 * f32x4.extract_lane(pixel, 1) + f32x4.extract_lane(pixel, 2)) / 4
      const t = l / alpha
      const strength = (amount / 255) * (0.35 + 2.6 * t * (1 - t)) * (alpha / 255)
      const sum = f32x4.add(pixel, f32x4.mul(f32x4.add(one, own), f32x4.splat(strength)))
      const within = f32x4.min(f32x4.max(sum, f32x4.splat(0)), f32x4.splat(alpha))
      storePixel(p, v128.shuffle<i32>(within, pixel, 0, 1, 2, 7))
    }
  }
}
