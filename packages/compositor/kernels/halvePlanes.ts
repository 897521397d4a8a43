// 4:2:0 planes brought to half their width and height, as they are: what is shown at half its size and otherwise
// untouched never becomes colours. Luma is the mean of four. Chroma is what `yuvToHalfRgba` and `rgbaToYuv` make of it
// one after the other, in one step: its samples lie with the left luma column, so that those of the half are weighed
// 3 7 5 1 from one before their own place on, and two rows are averaged.

import { held } from './pixel'

/**
 * Rows of half the luma.
 * @param width of the source, a multiple of four
 */
function halveLuma(src: usize, width: i32, dst: usize, rows: i32): void {
  const w = width >> 1
  const two = held(i16x8.splat(2))
  for (let y = 0; y < rows; y++) {
    const top = src + <usize>(y * 2 * width)
    const bottom = top + <usize>width
    const out = dst + <usize>(y * w)
    let x = 0
    for (; x + 16 <= w; x += 16) {
      const i = <usize>x * 2
      const low = i16x8.add(
        i16x8.extadd_pairwise_i8x16_u(v128.load(top + i)),
        i16x8.extadd_pairwise_i8x16_u(v128.load(bottom + i)),
      )
      const high = i16x8.add(
        i16x8.extadd_pairwise_i8x16_u(v128.load(top + i + 16)),
        i16x8.extadd_pairwise_i8x16_u(v128.load(bottom + i + 16)),
      )
      v128.store(
        out + x,
        i8x16.narrow_i16x8_u(i16x8.shr_u(i16x8.add(low, two), 2), i16x8.shr_u(i16x8.add(high, two), 2)),
      )
    }
    for (; x < w; x++) {
      const i = <usize>x * 2
      const sum =
        <i32>load<u8>(top + i) + <i32>load<u8>(top + i + 1) + <i32>load<u8>(bottom + i) + <i32>load<u8>(bottom + i + 1)
      store<u8>(out + x, <u8>((sum + 2) >> 2))
    }
  }
}

/** A sample of two rows together, the last one standing for what lies beyond it. */
// @ts-ignore: decorator
@inline
function both(top: usize, bottom: usize, x: i32, width: i32): i32 {
  const i = <usize>min(x, width - 1)
  return <i32>load<u8>(top + i) + <i32>load<u8>(bottom + i)
}

/**
 * Rows of half a chroma plane.
 * @param width of the source plane, even
 */
function halveChroma(src: usize, width: i32, dst: usize, rows: i32): void {
  const w = width >> 1
  const before = held(i32x4.splat((7 << 16) | 3))
  const after = held(i32x4.splat((1 << 16) | 5))
  const half = held(i32x4.splat(16))
  for (let y = 0; y < rows; y++) {
    const top = src + <usize>(y * 2 * width)
    const bottom = top + <usize>width
    const out = dst + <usize>(y * w)
    // There is nothing before the first: the sample that lies there counts for it.
    const first = 9 * both(top, bottom, 0, width) + 6 * both(top, bottom, 1, width) + both(top, bottom, 2, width)
    store<u8>(out, <u8>((first + 16) >> 5))
    let x = 1
    // Eight at a time, as long as what is read lies within the row.
    for (; x * 2 + 17 <= width && x + 8 <= w; x += 8) {
      const i = <usize>(x * 2)
      const low0 = pairs(top + i - 1, bottom + i - 1)
      const low1 = pairs(top + i + 1, bottom + i + 1)
      const high0 = pairs(top + i + 7, bottom + i + 7)
      const high1 = pairs(top + i + 9, bottom + i + 9)
      const low = i32x4.add(i32x4.dot_i16x8_s(low0, before), i32x4.dot_i16x8_s(low1, after))
      const high = i32x4.add(i32x4.dot_i16x8_s(high0, before), i32x4.dot_i16x8_s(high1, after))
      const words = i16x8.narrow_i32x4_s(i32x4.shr_s(i32x4.add(low, half), 5), i32x4.shr_s(i32x4.add(high, half), 5))
      v128.store64_lane(out + x, i8x16.narrow_i16x8_u(words, words), 0)
    }
    for (; x < w; x++) {
      const i = x * 2
      const sum =
        3 * both(top, bottom, i - 1, width) +
        7 * both(top, bottom, i, width) +
        5 * both(top, bottom, i + 1, width) +
        both(top, bottom, i + 2, width)
      store<u8>(out + x, <u8>((sum + 16) >> 5))
    }
  }
}

/** Eight samples of two rows together. */
// @ts-ignore: decorator
@inline
function pairs(top: usize, bottom: usize): v128 {
  return i16x8.add(i16x8.extend_low_i8x16_u(v128.load64_zero(top)), i16x8.extend_low_i8x16_u(v128.load64_zero(bottom)))
}

/**
 * Planes of a picture at half its size. Width and height are multiples of four.
 * @param y address of its planes, one after the other; `dst` that of those of the half
 */
export function halvePlanes(y: usize, width: i32, height: i32, dst: usize): void {
  const size = width * height
  const u = y + <usize>size
  const out = dst + <usize>(size >> 2)
  halveLuma(y, width, dst, height >> 1)
  halveChroma(u, width >> 1, out, height >> 2)
  halveChroma(u + <usize>(size >> 2), width >> 1, out + <usize>(size >> 4), height >> 2)
}
