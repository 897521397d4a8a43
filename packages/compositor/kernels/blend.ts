// Source-over on premultiplied RGBA. Pixels are held as 8.7 fixed point while they are mixed; products round once.

import { held, loadTwo, storeOne, storeTwo } from './pixel'

/** `opacity` is 0 to 32768. Both rows are premultiplied; `n` pixels. */
export function blendRow(src: usize, dst: usize, n: i32, opacity: i32): void {
  let x = 0
  if (opacity >= 32768) {
    for (; x + 4 <= n; x += 4) {
      const s = src + <usize>x * 4
      const d = dst + <usize>x * 4
      const four = v128.load(s)
      // Most pixels are solid, or nothing at all.
      if (i32x4.all_true(i32x4.eq(i32x4.shr_u(four, 24), i32x4.splat(255)))) v128.store(d, four)
      else if (v128.any_true(four)) {
        storeTwo(d, over(loadTwo(s), loadTwo(d)))
        storeTwo(d + 8, over(loadTwo(s + 8), loadTwo(d + 8)))
      }
    }
    for (; x < n; x++) storeOne(dst + <usize>x * 4, over(loadTwo(src + <usize>x * 4), loadTwo(dst + <usize>x * 4)))
    return
  }
  const o = held(i16x8.splat(<i16>opacity))
  for (; x + 2 <= n; x += 2) {
    const s = i16x8.q15mulr_sat_s(loadTwo(src + <usize>x * 4), o)
    storeTwo(dst + <usize>x * 4, over(s, loadTwo(dst + <usize>x * 4)))
  }
  if (x < n) {
    const s = i16x8.q15mulr_sat_s(loadTwo(src + <usize>x * 4), o)
    storeOne(dst + <usize>x * 4, over(s, loadTwo(dst + <usize>x * 4)))
  }
}

/** A strength of 0 to 1 as {@link blendRow} takes it. */
// @ts-ignore: decorator
@inline
function fixed(strength: f64): i32 {
  return <i32>Math.floor(strength * 32768 + 0.5)
}

/**
 * Lays rows y0 … y1 of a rectangle of `rows` rows of `n` pixels over a picture, addressed at the rectangle's first
 * pixel. Strides are in bytes.
 * @param strength 0 to 1
 * @param left, right, top, bottom part of the outermost pixels that the rectangle covers, 0 to 1
 * @param opaque 1 when it has no transparency, so that it is copied where nothing mixes
 */
export function layRect(
  src: usize,
  srcStride: i32,
  dst: usize,
  dstStride: i32,
  n: i32,
  rows: i32,
  strength: f64,
  left: f64,
  right: f64,
  top: f64,
  bottom: f64,
  opaque: i32,
  y0: i32,
  y1: i32,
): void {
  const begin = left < 1 ? 1 : 0
  const end = right < 1 && n > 1 ? n - 1 : n
  for (let y = y0; y < y1; y++) {
    const own = strength * (y == 0 ? top : y == rows - 1 ? bottom : 1)
    const row = src + <usize>(y * srcStride)
    const target = dst + <usize>(y * dstStride)
    if (begin) blendRow(row, target, 1, fixed(own * left))
    if (end < n) blendRow(row + <usize>end * 4, target + <usize>end * 4, 1, fixed(own * right))
    if (end <= begin) continue
    const whole = fixed(own)
    if (opaque && whole == 32768) memory.copy(target + begin * 4, row + begin * 4, <usize>(end - begin) * 4)
    else blendRow(row + begin * 4, target + begin * 4, end - begin, whole)
  }
}

/** Two pixels over two, in fixed point. */
// @ts-ignore: decorator
@inline
function over(s: v128, d: v128): v128 {
  const inverse = i16x8.sub(i16x8.splat(32640), v128.shuffle<i16>(s, s, 3, 3, 3, 3, 7, 7, 7, 7))
  return i16x8.add_sat_s(s, i16x8.q15mulr_sat_s(d, i16x8.add(inverse, i16x8.shr_u(inverse, 8))))
}

/** Fills `n` pixels with one colour, given as a little-endian RGBA word. */
export function fill(dst: usize, n: i32, colour: i32): void {
  const c = i32x4.splat(colour)
  let x = 0
  for (; x + 4 <= n; x += 4) v128.store(dst + x * 4, c)
  for (; x < n; x++) store<i32>(dst + x * 4, colour)
}

/** Straight alpha to premultiplied, in place, rounded to nearest. */
export function premultiply(pixels: usize, n: i32): void {
  for (let i = 0; i < n; i++) {
    const p = pixels + i * 4
    const a: u32 = load<u8>(p + 3)
    if (a == 255) continue
    store<u8>(p, <u8>((<u32>load<u8>(p) * a + 127) / 255))
    store<u8>(p + 1, <u8>((<u32>load<u8>(p + 1) * a + 127) / 255))
    store<u8>(p + 2, <u8>((<u32>load<u8>(p + 2) * a + 127) / 255))
  }
}
