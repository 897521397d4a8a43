// What is drawn along edges: lines by the gradient of luma (I. Sobel's operator), and light from the side.
import { loadPixel, storePixel, unit } from './pixel'

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
  const line = f32x4(lineR, lineG, lineB, 255)
  const ground = f32x4(groundR, groundG, groundB, 255)
  for (let y = y0; y < y1; y++) {
    const up = src + <usize>(max(y - 1, 0) * w) * 4
    const row = src + <usize>(y * w) * 4
    const down = src + <usize>(min(y + 1, h - 1) * w) * 4
    const out = dst + <usize>(y * w) * 4
    for (let x = 0; x < w; x++) {
      const l = <usize>max(x - 1, 0) * 4
      const c = <usize>x * 4
      const r = <usize>min(x + 1, w - 1) * 4
      const a = lumaAt(up + l)
      const b = lumaAt(up + r)
      const d = lumaAt(down + l)
      const e = lumaAt(down + r)
      const gx = b + 2 * lumaAt(row + r) + e - a - 2 * lumaAt(row + l) - d
      const gy = d + 2 * lumaAt(down + c) + e - a - 2 * lumaAt(up + c) - b
      const steep = sqrt<f32>(<f32>(gx * gx + gy * gy)) * 0.25
      const t = unit(((steep - floor) * gain) / 255)
      const pixel = loadPixel(row + c)
      const alpha = <f32>load<u8>(row + c, 3) / 255
      const scaled = f32x4.mul(ground, f32x4.splat(alpha))
      const base = f32x4.add(scaled, f32x4.mul(f32x4.sub(pixel, scaled), f32x4.splat(keep)))
      const to = f32x4.mul(line, f32x4.splat(alpha))
      const drawn = f32x4.add(base, f32x4.mul(f32x4.sub(to, base), f32x4.splat(t)))
      storePixel(out + c, v128.shuffle<i32>(drawn, pixel, 0, 1, 2, 7))
    }
  }
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
      const within = f32x4.min(f32x4.max(sum, f32x4.splat(0)), f32x4.splat(alpha))
      storePixel(dst + c, v128.shuffle<i32>(within, pixel, 0, 1, 2, 7))
    }
  }
}
