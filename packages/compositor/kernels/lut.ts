// Colours by a three-dimensional table, between whose points is gone straight within tetrahedra (J. M. Kasson,
// S. I. Nin, W. Plouffe, J. L. Hafner, "Performing color space conversions with three-dimensional linear
// interpolation", J. Electronic Imaging 4, 1995). Ordered dithering instead of rounding: skies don't band.

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
 * @param axis for each value of a channel an i32 pair: the entry below it, and how far to the next, of 16384
 */
export function lookUp(pixels: usize, width: i32, y0: i32, y1: i32, lut: usize, size: i32, axis: usize): void {
  const stepG = size << 3
  const stepB = size * stepG
  for (let y = y0; y < y1; y++) {
    let p = pixels + <usize>(y * width) * 4
    const dither = bayerRow(y & 7)
    for (let x = 0; x < width; x++, p += 4) {
      const a = <i32>load<u8>(p, 3)
      if (a == 0) continue
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
        i32x4.splat((((<i32>(dither >> ((<u64>(x & 7)) << 3))) & 63) << 14) + 8192),
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
  }
}
