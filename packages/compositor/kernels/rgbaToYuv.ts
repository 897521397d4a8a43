// Opaque RGBA to 4:2:0 planes. Chroma is taken at the left luma column (weights 1 2 1) and between the two rows: the
// counterpart of how yuvToRgba brings it up. Width and height are even.

import { held } from './pixel'

// @ts-ignore: decorator
@inline
function clamp8(value: i32): u8 {
  return <u8>min(max(value, 0), 255)
}

/** Luma of four pixels, as whole numbers. */
// @ts-ignore: decorator
@inline
function lumaOfFour(four: v128, pair: v128, add: v128): v128 {
  const a = i32x4.dot_i16x8_s(i16x8.extend_low_i8x16_u(four), pair)
  const b = i32x4.dot_i16x8_s(i16x8.extend_high_i8x16_u(four), pair)
  // Red and green of each, and its blue.
  const sum = i32x4.add(v128.shuffle<i32>(a, b, 0, 2, 4, 6), v128.shuffle<i32>(a, b, 1, 3, 5, 7))
  return i32x4.shr_s(i32x4.add(sum, add), 15)
}

/** A row of luma. @param pair coefficients of the channels of two pixels; `add` the bias in each lane */
function lumaRow(
  src: usize,
  width: i32,
  out: usize,
  yR: i32,
  yG: i32,
  yB: i32,
  bias: i32,
  pair: v128,
  add: v128,
): void {
  let x = 0
  for (; x + 8 <= width; x += 8) {
    const y0 = lumaOfFour(v128.load(src + x * 4), pair, add)
    const y1 = lumaOfFour(v128.load(src + x * 4 + 16), pair, add)
    const packed = i16x8.narrow_i32x4_s(y0, y1)
    v128.store64_lane(out + x, i8x16.narrow_i16x8_u(packed, packed), 0)
  }
  for (; x < width; x++) {
    const p = src + x * 4
    const sum = <i32>load<u8>(p) * yR + <i32>load<u8>(p + 1) * yG + <i32>load<u8>(p + 2) * yB + bias
    store<u8>(out + x, clamp8(sum >> 15))
  }
}

/** Two pixels of two rows together, of those at one place of four. */
// @ts-ignore: decorator
@inline
function lowPair(top: v128, bottom: v128): v128 {
  return i16x8.add(i16x8.extend_low_i8x16_u(top), i16x8.extend_low_i8x16_u(bottom))
}

// @ts-ignore: decorator
@inline
function highPair(top: v128, bottom: v128): v128 {
  return i16x8.add(i16x8.extend_high_i8x16_u(top), i16x8.extend_high_i8x16_u(bottom))
}

/** Four samples from the weighed pixels of two and of the next two. */
// @ts-ignore: decorator
@inline
function storeFour(out: usize, first: v128, second: v128, coefficients: v128, bias: v128): void {
  const a = i32x4.dot_i16x8_s(first, coefficients)
  const b = i32x4.dot_i16x8_s(second, coefficients)
  const sum = i32x4.add(v128.shuffle<i32>(a, b, 0, 2, 4, 6), v128.shuffle<i32>(a, b, 1, 3, 5, 7))
  const words = i32x4.shr_s(i32x4.add(sum, bias), 18)
  const packed = i16x8.narrow_i32x4_s(words, words)
  v128.store32_lane(out, i8x16.narrow_i16x8_u(packed, packed), 0)
}

/** Coefficients times 32768; `bias` values hold the offset and the half for rounding at the scale of their sums. */
export function rgbaToYuv(
  src: usize,
  width: i32,
  height: i32,
  yPlane: usize,
  uPlane: usize,
  vPlane: usize,
  yR: i32,
  yG: i32,
  yB: i32,
  yBias: i32,
  uR: i32,
  uG: i32,
  uB: i32,
  vR: i32,
  vG: i32,
  vB: i32,
): void {
  const stride = width * 4
  const cw = width >> 1
  const coefficients = i16x8(<i16>uR, <i16>uG, <i16>uB, 0, <i16>vR, <i16>vG, <i16>vB, 0)
  // Eight samples of weight one are summed: three bits more than the coefficients' fifteen.
  const cBias = (128 << 18) + (1 << 17)
  const yPair = held(i16x8(<i16>yR, <i16>yG, <i16>yB, 0, <i16>yR, <i16>yG, <i16>yB, 0))
  const yBiases = held(i32x4.splat(yBias))
  const uPair = held(i16x8(<i16>uR, <i16>uG, <i16>uB, 0, <i16>uR, <i16>uG, <i16>uB, 0))
  const vPair = held(i16x8(<i16>vR, <i16>vG, <i16>vB, 0, <i16>vR, <i16>vG, <i16>vB, 0))
  const biases = held(i32x4.splat(cBias))
  for (let y = 0; y < height; y += 2) {
    const top = src + <usize>(y * stride)
    const bottom = top + <usize>stride
    lumaRow(top, width, yPlane + <usize>(y * width), yR, yG, yB, yBias, yPair, yBiases)
    lumaRow(bottom, width, yPlane + <usize>((y + 1) * width), yR, yG, yB, yBias, yPair, yBiases)
    const u = uPlane + <usize>((y >> 1) * cw)
    const v = vPlane + <usize>((y >> 1) * cw)
    let i = 0
    // Pixels of both rows together, two to a vector; the first one also stands for what lies before it.
    const edge = lowPair(v128.load32_zero(top), v128.load32_zero(bottom))
    let before = v128.shuffle<i64>(edge, edge, 0, 0)
    for (; i + 4 <= cw; i += 4) {
      const at = <usize>i * 8
      const a0 = v128.load(top + at)
      const b0 = v128.load(bottom + at)
      const a1 = v128.load(top + at + 16)
      const b1 = v128.load(bottom + at + 16)
      const s01 = lowPair(a0, b0)
      const s23 = highPair(a0, b0)
      const s45 = lowPair(a1, b1)
      const s67 = highPair(a1, b1)
      const first = i16x8.add(
        i16x8.add(v128.shuffle<i64>(before, s01, 1, 3), v128.shuffle<i64>(s01, s23, 1, 3)),
        i16x8.shl(v128.shuffle<i64>(s01, s23, 0, 2), 1),
      )
      const second = i16x8.add(
        i16x8.add(v128.shuffle<i64>(s23, s45, 1, 3), v128.shuffle<i64>(s45, s67, 1, 3)),
        i16x8.shl(v128.shuffle<i64>(s45, s67, 0, 2), 1),
      )
      storeFour(u + i, first, second, uPair, biases)
      storeFour(v + i, first, second, vPair, biases)
      before = s67
    }
    for (; i < cw; i++) {
      const left = i == 0 ? 0 : i * 8 - 4
      const p0 = v128.load32_zero(top + left)
      const q0 = v128.load32_zero(bottom + left)
      const p1 = v128.load64_zero(top + i * 8)
      const q1 = v128.load64_zero(bottom + i * 8)
      const earlier = i16x8.add(i16x8.extend_low_i8x16_u(p0), i16x8.extend_low_i8x16_u(q0))
      const here = i16x8.add(i16x8.extend_low_i8x16_u(p1), i16x8.extend_low_i8x16_u(q1))
      const after = v128.shuffle<i16>(here, here, 4, 5, 6, 7, 4, 5, 6, 7)
      const sum = i16x8.add(i16x8.add(earlier, after), i16x8.shl(here, 1))
      const both = i32x4.dot_i16x8_s(v128.shuffle<i16>(sum, sum, 0, 1, 2, 3, 0, 1, 2, 3), coefficients)
      store<u8>(u + i, clamp8((i32x4.extract_lane(both, 0) + i32x4.extract_lane(both, 1) + cBias) >> 18))
      store<u8>(v + i, clamp8((i32x4.extract_lane(both, 2) + i32x4.extract_lane(both, 3) + cBias) >> 18))
    }
  }
}
