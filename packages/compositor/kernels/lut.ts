// Colours by a three-dimensional table, between whose points is gone straight within tetrahedra (J. M. Kasson,
// S. I. Nin, W. Plouffe, J. L. Hafner, "Performing color space conversions with three-dimensional linear
// interpolation", J. Electronic Imaging 4, 1995). Ordered dithering instead of rounding: skies don't band.

import { held } from './pixel'

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
  if (size == 65) lookUpRows(pixels, width, y0, y1, lut, 6, axis)
  else lookUpRows(pixels, width, y0, y1, lut, 5, axis)
}

/** Inlined once for each size of a table: places in it are found by shifting by so many bits as are known by then. */
// @ts-ignore: decorator
@inline
function lookUpRows(pixels: usize, width: i32, y0: i32, y1: i32, lut: usize, bits: i32, axis: usize): void {
  const size = (1 << bits) + 1
  const solid = held(i32x4.splat(0xff000000))
  const value = held(i32x4.splat(255))
  const scale = held(i32x4.splat(2056 << (bits - 5)))
  const last = held(i32x4.splat((1 << bits) - 1))
  const round = held(i32x4.splat(32768))
  const whole = held(i32x4.splat(16384))
  const half = held(i32x4.splat(8192))
  const stepR = held(i32x4.splat(8))
  const stepG = held(i32x4.splat(size << 3))
  const stepB = held(i32x4.splat(size * (size << 3)))
  const table = held(i32x4.splat(<i32>lut))
  const all = held(i32x4.splat(8 + (size << 3) + size * (size << 3)))
  for (let y = y0; y < y1; y++) {
    let p = pixels + <usize>(y * width) * 4
    const dither = bayerRow(y & 7)
    // For these four pixels, and for the next: they take turns.
    let ahead = offsetsOf(<u32>dither, half)
    let behind = offsetsOf(<u32>(dither >> 32), half)
    let x = 0
    for (; x + 4 <= width; x += 4, p += 16) {
      const four = v128.load(p)
      const more = ahead
      ahead = behind
      behind = more
      if (!i32x4.all_true(i32x4.eq(v128.and(four, solid), solid))) {
        for (let k = 0; k < 4; k++)
          lookUpOne(p + <usize>(k << 2), lut, size, axis, <i32>(dither >> (<u64>((x + k) & 7) << 3)) & 63)
        continue
      }
      // Four opaque pixels, without a branch: which way is the longest is as good as chance from pixel to pixel.
      const r = v128.and(four, value)
      const g = v128.and(i32x4.shr_u(four, 8), value)
      const b = v128.and(i32x4.shr_u(four, 16), value)
      const pr = placeOf(r, scale, round)
      const pg = placeOf(g, scale, round)
      const pb = placeOf(b, scale, round)
      const er = entryOf(pr, last)
      const eg = entryOf(pg, last)
      const eb = entryOf(pb, last)
      const fr = i32x4.sub(pr, i32x4.shl(er, 14))
      const fg = i32x4.sub(pg, i32x4.shl(eg, 14))
      const fb = i32x4.sub(pb, i32x4.shl(eb, 14))
      const plane = i32x4.add(i32x4.add(i32x4.shl(eb, bits), eb), eg)
      const base = i32x4.add(i32x4.shl(i32x4.add(i32x4.add(i32x4.shl(plane, bits), plane), er), 3), table)
      const rg = i32x4.ge_s(fr, fg)
      const gb = i32x4.ge_s(fg, fb)
      const rb = i32x4.ge_s(fr, fb)
      const longest = v128.bitselect(stepR, v128.bitselect(stepG, stepB, gb), v128.and(rg, rb))
      const shortest = v128.bitselect(stepB, v128.bitselect(stepG, stepR, rg), v128.and(gb, rb))
      const most = i32x4.max_s(i32x4.max_s(fr, fg), fb)
      const least = i32x4.min_s(i32x4.min_s(fr, fg), fb)
      const middle = i32x4.sub(i32x4.add(i32x4.add(fr, fg), fb), i32x4.add(most, least))
      const end = i32x4.add(base, all)
      const near1 = i32x4.add(base, longest)
      const far2 = i32x4.sub(end, shortest)
      // Weights by twos, as they are multiplied.
      const nearBy = v128.or(i32x4.sub(whole, most), i32x4.shl(i32x4.sub(most, middle), 16))
      const farBy = v128.or(i32x4.sub(middle, least), i32x4.shl(least, 16))
      const first = mixed(
        <usize>i32x4.extract_lane(base, 0),
        <usize>i32x4.extract_lane(near1, 0),
        <usize>i32x4.extract_lane(far2, 0),
        <usize>i32x4.extract_lane(end, 0),
        v128.shuffle<i32>(nearBy, nearBy, 0, 0, 0, 0),
        v128.shuffle<i32>(farBy, farBy, 0, 0, 0, 0),
        v128.shuffle<i32>(more, more, 0, 0, 0, 0),
      )
      const second = mixed(
        <usize>i32x4.extract_lane(base, 1),
        <usize>i32x4.extract_lane(near1, 1),
        <usize>i32x4.extract_lane(far2, 1),
        <usize>i32x4.extract_lane(end, 1),
        v128.shuffle<i32>(nearBy, nearBy, 1, 1, 1, 1),
        v128.shuffle<i32>(farBy, farBy, 1, 1, 1, 1),
        v128.shuffle<i32>(more, more, 1, 1, 1, 1),
      )
      const third = mixed(
        <usize>i32x4.extract_lane(base, 2),
        <usize>i32x4.extract_lane(near1, 2),
        <usize>i32x4.extract_lane(far2, 2),
        <usize>i32x4.extract_lane(end, 2),
        v128.shuffle<i32>(nearBy, nearBy, 2, 2, 2, 2),
        v128.shuffle<i32>(farBy, farBy, 2, 2, 2, 2),
        v128.shuffle<i32>(more, more, 2, 2, 2, 2),
      )
      const fourth = mixed(
        <usize>i32x4.extract_lane(base, 3),
        <usize>i32x4.extract_lane(near1, 3),
        <usize>i32x4.extract_lane(far2, 3),
        <usize>i32x4.extract_lane(end, 3),
        v128.shuffle<i32>(nearBy, nearBy, 3, 3, 3, 3),
        v128.shuffle<i32>(farBy, farBy, 3, 3, 3, 3),
        v128.shuffle<i32>(more, more, 3, 3, 3, 3),
      )
      const colours = i8x16.narrow_i16x8_u(i16x8.narrow_i32x4_s(first, second), i16x8.narrow_i32x4_s(third, fourth))
      // The table's fourth number is nothing: what comes of it gives way to full opacity.
      v128.store(p, v128.or(colours, solid))
    }
    for (; x < width; x++, p += 4) lookUpOne(p, lut, size, axis, <i32>(dither >> (<u64>(x & 7) << 3)) & 63)
  }
}

/** What is added to sums of four pixels before their lowest bits fall away: a half, and a part by Bayer's matrix. */
// @ts-ignore: decorator
@inline
function offsetsOf(bytes: u32, half: v128): v128 {
  return i32x4.add(i32x4.shl(i32x4.extend_low_i16x8_u(i16x8.extend_low_i8x16_u(i32x4.splat(bytes))), 14), half)
}

/**
 * Where four values of a channel lie along the axis, in 16384ths of an entry, to nearest: what the axis holds, worked
 * out. A 255th of 2^19 is 2056 and 8/255, of 2^20 twice that: what is left over is the product's 65536th, near enough.
 * @param scale 2056 or 4112 in each lane, for 32 or 64 steps
 */
// @ts-ignore: decorator
@inline
function placeOf(value: v128, scale: v128, round: v128): v128 {
  const product = i32x4.dot_i16x8_s(value, scale)
  return i32x4.add(product, i32x4.shr_u(i32x4.add(product, round), 16))
}

/** The entries below four places; the last one has none behind it. */
// @ts-ignore: decorator
@inline
function entryOf(place: v128, last: v128): v128 {
  return i32x4.min_s(i32x4.shr_u(place, 14), last)
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
