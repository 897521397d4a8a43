// Colours by a three-dimensional table, between whose points is gone straight within tetrahedra (J. M. Kasson,
// S. I. Nin, W. Plouffe, J. L. Hafner, "Performing color space conversions with three-dimensional linear
// interpolation", J. Electronic Imaging 4, 1995). Ordered dithering instead of rounding: skies don't band.

import { channel } from './pixel'

/** A row of Bayer's matrix of eight by eight, a byte each: its bits are those of x ^ y and of y, turned round. */
function bayerRow(y: i32): u64 {
  let row: u64 = 0
  for (let x = 0; x < 8; x++) {
    const d = x ^ y
    const value = ((d & 1) << 5) | ((y & 1) << 4) | ((d & 2) << 2) | ((y & 2) << 1) | ((d & 4) >> 1) | ((y & 4) >> 2)
    row |= (<u64>value) << (x << 3)
  }
  return row
}

/**
 * Looks every pixel of rows y0 … y1 up. Premultiplied pixels are looked up by their own colour; alpha stays.
 * @param lut `size`³ entries of four i16, red running fastest: colours times 64, and nothing
 * @param size 33 or 65
 * @param axis for each value of a channel an i32 pair: the entry below it, and how far to the next, of 16384
 */
export function lookUp(pixels: usize, width: i32, y0: i32, y1: i32, lut: usize, size: i32, axis: usize): void {
  const solid = i32x4.splat(0xff000000)
  for (let y = y0; y < y1; y++) {
    let p = pixels + <usize>(y * width) * 4
    const dither = bayerRow(y & 7)
    let x = 0
    for (; x + 4 <= width; x += 4, p += 16) {
      const four = v128.load(p)
      const bytes = <u32>(dither >> (<u64>(x & 4) << 3))
      if (i32x4.all_true(i32x4.eq(v128.and(four, solid), solid))) {
        v128.store(p, v128.or(lookUpFour(four, lut, size, bytes), solid))
        continue
      }
      for (let k = 0; k < 4; k++)
        lookUpOne(p + <usize>(k << 2), lut, size, axis, <i32>(bytes >> (<u32>k << 3)) & 63)
    }
    for (; x < width; x++, p += 4) lookUpOne(p, lut, size, axis, <i32>(dither >> (<u64>(x & 7) << 3)) & 63)
  }
}

/** The entries below four values of a channel: what the axis holds, worked out. `bits` 5 or 6, for 32 or 64 steps. */
// @ts-ignore: decorator
@inline
function entryOf(value: v128, bits: i32): v128 {
  const place = i32x4.shl(value, bits)
  // Divided by 255: exact for what is below 2^16.
  const below = i32x4.shr_u(i32x4.add(i32x4.add(place, i32x4.shr_u(place, 8)), i32x4.splat(1)), 8)
  return i32x4.min_s(below, i32x4.splat((1 << bits) - 1))
}

/** How far four values are to the next entry, of 16384 as on the axis: a 255th of it is 64 and 257 1024ths. */
// @ts-ignore: decorator
@inline
function farOf(value: v128, entry: v128, bits: i32): v128 {
  const rest = i32x4.add(i32x4.sub(i32x4.shl(value, bits), i32x4.shl(entry, 8)), entry)
  const more = i32x4.add(i32x4.add(i32x4.shl(rest, 8), rest), i32x4.splat(512))
  return i32x4.add(i32x4.shl(rest, 6), i32x4.shr_u(more, 10))
}

/**
 * Four opaque pixels. Without a branch: which way is the longest is as good as chance from pixel to pixel.
 * @param dither a byte for each
 */
// @ts-ignore: decorator
@inline
function lookUpFour(four: v128, lut: usize, size: i32, dither: u32): v128 {
  const bits = size == 65 ? 6 : 5
  const r = channel(four, 0)
  const g = channel(four, 8)
  const b = channel(four, 16)
  const er = entryOf(r, bits)
  const eg = entryOf(g, bits)
  const eb = entryOf(b, bits)
  const fr = farOf(r, er, bits)
  const fg = farOf(g, eg, bits)
  const fb = farOf(b, eb, bits)
  const stepR = i32x4.splat(8)
  const stepG = i32x4.splat(size << 3)
  const stepB = i32x4.splat(size * (size << 3))
  const plane = i32x4.add(i32x4.add(i32x4.shl(eb, bits), eb), eg)
  const base = i32x4.shl(i32x4.add(i32x4.add(i32x4.shl(plane, bits), plane), er), 3)
  const rg = i32x4.ge_s(fr, fg)
  const gb = i32x4.ge_s(fg, fb)
  const rb = i32x4.ge_s(fr, fb)
  const longest = v128.bitselect(stepR, v128.bitselect(stepG, stepB, gb), v128.and(rg, rb))
  const shortest = v128.bitselect(stepB, v128.bitselect(stepG, stepR, rg), v128.and(gb, rb))
  const most = i32x4.max_s(i32x4.max_s(fr, fg), fb)
  const least = i32x4.min_s(i32x4.min_s(fr, fg), fb)
  const middle = i32x4.sub(i32x4.add(i32x4.add(fr, fg), fb), i32x4.add(most, least))
  const all = <usize>(8 + (size << 3) + size * (size << 3))
  const near1 = i32x4.add(base, longest)
  const far2 = i32x4.sub(i32x4.add(base, i32x4.splat(<i32>all)), shortest)
  // Weights by twos, as they are multiplied.
  const nearBy = v128.or(i32x4.sub(i32x4.splat(16384), most), i32x4.shl(i32x4.sub(most, middle), 16))
  const farBy = v128.or(i32x4.sub(middle, least), i32x4.shl(least, 16))
  const offsets = i32x4.extend_low_i16x8_u(i16x8.extend_low_i8x16_u(i32x4.splat(dither)))
  const half = i32x4.add(i32x4.shl(offsets, 14), i32x4.splat(8192))
  const first = mixed(
    lut + <usize>i32x4.extract_lane(base, 0),
    lut + <usize>i32x4.extract_lane(near1, 0),
    lut + <usize>i32x4.extract_lane(far2, 0),
    lut + <usize>i32x4.extract_lane(base, 0) + all,
    v128.shuffle<i32>(nearBy, nearBy, 0, 0, 0, 0),
    v128.shuffle<i32>(farBy, farBy, 0, 0, 0, 0),
    v128.shuffle<i32>(half, half, 0, 0, 0, 0),
  )
  const second = mixed(
    lut + <usize>i32x4.extract_lane(base, 1),
    lut + <usize>i32x4.extract_lane(near1, 1),
    lut + <usize>i32x4.extract_lane(far2, 1),
    lut + <usize>i32x4.extract_lane(base, 1) + all,
    v128.shuffle<i32>(nearBy, nearBy, 1, 1, 1, 1),
    v128.shuffle<i32>(farBy, farBy, 1, 1, 1, 1),
    v128.shuffle<i32>(half, half, 1, 1, 1, 1),
  )
  const third = mixed(
    lut + <usize>i32x4.extract_lane(base, 2),
    lut + <usize>i32x4.extract_lane(near1, 2),
    lut + <usize>i32x4.extract_lane(far2, 2),
    lut + <usize>i32x4.extract_lane(base, 2) + all,
    v128.shuffle<i32>(nearBy, nearBy, 2, 2, 2, 2),
    v128.shuffle<i32>(farBy, farBy, 2, 2, 2, 2),
    v128.shuffle<i32>(half, half, 2, 2, 2, 2),
  )
  const fourth = mixed(
    lut + <usize>i32x4.extract_lane(base, 3),
    lut + <usize>i32x4.extract_lane(near1, 3),
    lut + <usize>i32x4.extract_lane(far2, 3),
    lut + <usize>i32x4.extract_lane(base, 3) + all,
    v128.shuffle<i32>(nearBy, nearBy, 3, 3, 3, 3),
    v128.shuffle<i32>(farBy, farBy, 3, 3, 3, 3),
    v128.shuffle<i32>(half, half, 3, 3, 3, 3),
  )
  return v128.and(
    i8x16.narrow_i16x8_u(i16x8.narrow_i32x4_s(first, second), i16x8.narrow_i32x4_s(third, fourth)),
    i32x4.splat(0x00ffffff),
  )
}

/** The colour of a pixel, as whole numbers: its four entries, and their weights by twos. */
// @ts-ignore: decorator
@inline
function mixed(p0: usize, p1: usize, p2: usize, p3: usize, nearBy: v128, farBy: v128, half: v128): v128 {
  const near = v128.shuffle<i16>(v128.load64_zero(p0), v128.load64_zero(p1), 0, 8, 1, 9, 2, 10, 3, 11)
  const far = v128.shuffle<i16>(v128.load64_zero(p2), v128.load64_zero(p3), 0, 8, 1, 9, 2, 10, 3, 11)
  const sum = i32x4.add(i32x4.dot_i16x8_s(near, nearBy), i32x4.dot_i16x8_s(far, farBy))
  return i32x4.shr_s(i32x4.add(sum, half), 20)
}

/** The same for a pixel of any opacity, by the axis. */
function lookUpOne(p: usize, lut: usize, size: i32, axis: usize, dither: i32): void {
  const stepG = size << 3
  const stepB = size * stepG
  const a = <i32>load<u8>(p, 3)
  if (a == 0) return
  let r = <i32>load<u8>(p)
  let g = <i32>load<u8>(p, 1)
  let b = <i32>load<u8>(p, 2)
  if (a < 255) {
    r = min((r * 255 + (a >> 1)) / a, 255)
    g = min((g * 255 + (a >> 1)) / a, 255)
    b = min((b * 255 + (a >> 1)) / a, 255)
  }
  const ar = axis + (r << 3)
  const ag = axis + (g << 3)
  const ab = axis + (b << 3)
  const base = lut + <usize>((load<i32>(ar) << 3) + load<i32>(ag) * stepG + load<i32>(ab) * stepB)
  // The three ways to go on, the longest first.
  let f1 = load<i32>(ar, 4)
  let f2 = load<i32>(ag, 4)
  let f3 = load<i32>(ab, 4)
  let s1 = 8
  let s2 = stepG
  let s3 = stepB
  const swap12 = f2 > f1
  const fa = select(f2, f1, swap12)
  const sa = select(s2, s1, swap12)
  f2 = select(f1, f2, swap12)
  s2 = select(s1, s2, swap12)
  const swap13 = f3 > fa
  f1 = select(f3, fa, swap13)
  s1 = select(s3, sa, swap13)
  f3 = select(fa, f3, swap13)
  s3 = select(sa, s3, swap13)
  const swap23 = f3 > f2
  const fc = select(f3, f2, swap23)
  const sc = select(s3, s2, swap23)
  f3 = select(f2, f3, swap23)
  const p1 = base + <usize>s1
  const p2 = p1 + <usize>sc
  const p3 = base + <usize>(8 + stepG + stepB)
  const w0 = 16384 - f1
  const w1 = f1 - fc
  const w2 = fc - f3
  const near = v128.shuffle<i16>(v128.load64_zero(base), v128.load64_zero(p1), 0, 8, 1, 9, 2, 10, 3, 11)
  const far = v128.shuffle<i16>(v128.load64_zero(p2), v128.load64_zero(p3), 0, 8, 1, 9, 2, 10, 3, 11)
  const sum = i32x4.add(
    i32x4.add(
      i32x4.dot_i16x8_s(near, i32x4.splat((w1 << 16) | w0)),
      i32x4.dot_i16x8_s(far, i32x4.splat((f3 << 16) | w2)),
    ),
    i32x4.splat((dither << 14) + 8192),
  )
  const words = i32x4.shr_s(sum, 20)
  const half = i16x8.narrow_i32x4_s(words, words)
  const bytes = i32x4.extract_lane(i8x16.narrow_i16x8_u(half, half), 0)
  if (a == 255) store<u32>(p, (bytes & 0xffffff) | 0xff000000)
  else {
    store<u8>(p, <u8>(((bytes & 255) * a + 127) / 255))
    store<u8>(p, <u8>((((bytes >> 8) & 255) * a + 127) / 255), 1)
    store<u8>(p, <u8>((((bytes >> 16) & 255) * a + 127) / 255), 2)
  }
}
