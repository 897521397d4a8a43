// What is drawn along edges: lines by the gradient of luma (I. Sobel's operator), and light from the side.
import { channel, loadFour, loadPixel, lumaOf, packed, storeFourPixels, storePixel } from './pixel'

/** Luma of a pixel, 0…255 (weights of ITU-R BT.709 in 256ths). */
// @ts-ignore: decorator
@inline
export function lumaAt(p: usize): i32 {
  return (54 * <i32>load<u8>(p) + 183 * <i32>load<u8>(p, 1) + 19 * <i32>load<u8>(p, 2)) >> 8
}

/**
 * Lines where brightness changes, on rows y0 … y1.
 * @param gain how dark a line is for a change of 255 between neighbours; `floor` changes below it (0…255) are none
 * @param keep 1 draws over the picture, 0 over the ground; colours of line and ground as 0…255
 */
export function drawLines(
  src: usize,
  dst: usize,
  w: i32,
  h: i32,
  gain: f32,
  floor: f32,
  keep: f32,
  lineR: f32,
  lineG: f32,
  lineB: f32,
  groundR: f32,
  groundG: f32,
  groundB: f32,
  y0: i32,
  y1: i32,
): void {
  const steepest = f32x4.splat(gain / 255)
  const least = f32x4.splat(floor)
  const one = f32x4.splat(1)
  for (let y = y0; y < y1; y++) {
    const up = src + <usize>(max(y - 1, 0) * w) * 4
    const row = src + <usize>(y * w) * 4
    const down = src + <usize>(min(y + 1, h - 1) * w) * 4
    const out = dst + <usize>(y * w) * 4
    for (let x = 0; x < w; ) {
      const c = <usize>x * 4
      let gx: v128
      let gy: v128
      const four = x > 0 && x + 5 <= w
      if (four) {
        const a = lumas(up + c - 4)
        const b = lumas(up + c + 4)
        const d = lumas(down + c - 4)
        const e = lumas(down + c + 4)
        const across = i32x4.sub(lumas(row + c + 4), lumas(row + c - 4))
        const along = i32x4.sub(lumas(down + c), lumas(up + c))
        gx = i32x4.add(i32x4.sub(i32x4.add(b, e), i32x4.add(a, d)), i32x4.add(across, across))
        gy = i32x4.add(i32x4.sub(i32x4.add(d, e), i32x4.add(a, b)), i32x4.add(along, along))
      } else {
        const l = <usize>max(x - 1, 0) * 4
        const r = <usize>min(x + 1, w - 1) * 4
        const a = lumaAt(up + l)
        const b = lumaAt(up + r)
        const d = lumaAt(down + l)
        const e = lumaAt(down + r)
        gx = i32x4.splat(b + 2 * lumaAt(row + r) + e - a - 2 * lumaAt(row + l) - d)
        gy = i32x4.splat(d + 2 * lumaAt(down + c) + e - a - 2 * lumaAt(up + c) - b)
      }
      // Below 2^11 each: squares by sixteens fit.
      const square = i32x4.add(i32x4.dot_i16x8_s(low16(gx), low16(gx)), i32x4.dot_i16x8_s(low16(gy), low16(gy)))
      const steep = f32x4.mul(f32x4.sqrt(f32x4.convert_i32x4_s(square)), f32x4.splat(0.25))
      const t = f32x4.pmin(f32x4.pmax(f32x4.mul(f32x4.sub(steep, least), steepest), f32x4.splat(0)), one)
      const pixels = loadFour(row + c, four ? 4 : 1)
      const a = channel(pixels, 24)
      const alpha = f32x4.div(f32x4.convert_i32x4_s(a), f32x4.splat(255))
      const drawn = packed(
        lined(channel(pixels, 0), lineR, groundR, keep, t, alpha),
        lined(channel(pixels, 8), lineG, groundG, keep, t, alpha),
        lined(channel(pixels, 16), lineB, groundB, keep, t, alpha),
        a,
      )
      storeFourPixels(out + c, drawn, four ? 4 : 1)
      x += four ? 4 : 1
    }
  }
}

/** Luma of four pixels. */
// @ts-ignore: decorator
@inline
function lumas(p: usize): v128 {
  const four = v128.load(p)
  return lumaOf(channel(four, 0), channel(four, 8), channel(four, 16))
}

/** The lower halves of four whole numbers, the upper ones nothing. */
// @ts-ignore: decorator
@inline
function low16(value: v128): v128 {
  return v128.and(value, i32x4.splat(0xffff))
}

/** A channel of four pixels: the line by `t` over the picture or the ground. */
// @ts-ignore: decorator
@inline
function lined(own: v128, line: f32, ground: f32, keep: f32, t: v128, alpha: v128): v128 {
  const scaled = f32x4.mul(f32x4.splat(ground), alpha)
  const kept = f32x4.mul(f32x4.sub(f32x4.convert_i32x4_s(own), scaled), f32x4.splat(keep))
  const base = f32x4.add(scaled, kept)
  const to = f32x4.mul(f32x4.splat(line), alpha)
  const drawn = f32x4.add(base, f32x4.mul(f32x4.sub(to, base), t))
  return i32x4.trunc_sat_f32x4_s(f32x4.nearest(drawn))
}

/**
 * Light from the side: how much brighter a pixel is than the one (dx, dy) beyond it, on rows y0 … y1.
 * @param keep 1 adds it to the picture, 0 draws it on grey
 */
export function emboss(
  src: usize,
  dst: usize,
  w: i32,
  h: i32,
  dx: i32,
  dy: i32,
  gain: f32,
  keep: f32,
  y0: i32,
  y1: i32,
): void {
  for (let y = y0; y < y1; y++) {
    const near = src + <usize>(min(max(y - dy, 0), h - 1) * w) * 4
    const far = src + <usize>(min(max(y + dy, 0), h - 1) * w) * 4
    for (let x = 0; x < w; x++) {
      const c = <usize>(y * w + x) * 4
      const lit = <f32>(
        (lumaAt(far + <usize>min(max(x + dx, 0), w - 1) * 4) - lumaAt(near + <usize>min(max(x - dx, 0), w - 1) * 4))
      )
      const pixel = loadPixel(src + c)
      const alpha = <f32>load<u8>(src + c, 3)
      const grey = f32x4.splat((128 * alpha) / 255)
      const base = f32x4.add(grey, f32x4.mul(f32x4.sub(pixel, grey), f32x4.splat(keep)))
      const sum = f32x4.add(base, f32x4.splat((lit * gain * alpha) / 255))
      const within = f32x4.pmin(f32x4.pmax(sum, f32x4.splat(0)), f32x4.splat(alpha))
      storePixel(dst + c, v128.shuffle<i32>(within, pixel, 0, 1, 2, 7))
    }
  }
}
