// Opaque RGBA to 4:2:0 planes. Chroma is taken at the left luma column (weights 1 2 1) and between the two rows: the
// counterpart of how yuvToRgba brings it up. Width and height are even.

// @ts-ignore: decorator
@inline
function clamp8(value: i32): u8 {
  return <u8>min(max(value, 0), 255)
}

function lumaRow(src: usize, width: i32, out: usize, yR: i32, yG: i32, yB: i32, bias: i32): void {
  const cRG = i32x4.splat((yG << 16) | (yR & 0xffff))
  const cB = i32x4.splat(yB & 0xffff)
  const add = i32x4.splat(bias)
  let x = 0
  for (; x + 8 <= width; x += 8) {
    const a = v128.load(src + x * 4)
    const b = v128.load(src + x * 4 + 16)
    const rg0 = v128.shuffle<u8>(a, a, 0, 1, 4, 5, 8, 9, 12, 13, 0, 0, 0, 0, 0, 0, 0, 0)
    const rg1 = v128.shuffle<u8>(b, b, 0, 1, 4, 5, 8, 9, 12, 13, 0, 0, 0, 0, 0, 0, 0, 0)
    const ba0 = v128.shuffle<u8>(a, a, 2, 3, 6, 7, 10, 11, 14, 15, 0, 0, 0, 0, 0, 0, 0, 0)
    const ba1 = v128.shuffle<u8>(b, b, 2, 3, 6, 7, 10, 11, 14, 15, 0, 0, 0, 0, 0, 0, 0, 0)
    const y0 = i32x4.add(
      i32x4.add(
        i32x4.dot_i16x8_s(i16x8.extend_low_i8x16_u(rg0), cRG),
        i32x4.dot_i16x8_s(i16x8.extend_low_i8x16_u(ba0), cB),
      ),
      add,
    )
    const y1 = i32x4.add(
      i32x4.add(
        i32x4.dot_i16x8_s(i16x8.extend_low_i8x16_u(rg1), cRG),
        i32x4.dot_i16x8_s(i16x8.extend_low_i8x16_u(ba1), cB),
      ),
      add,
    )
    const packed = i16x8.narrow_i32x4_s(i32x4.shr_s(y0, 15), i32x4.shr_s(y1, 15))
    v128.store64_lane(out + x, i8x16.narrow_i16x8_u(packed, packed), 0)
  }
  for (; x < width; x++) {
    const p = src + x * 4
    const sum = <i32>load<u8>(p) * yR + <i32>load<u8>(p + 1) * yG + <i32>load<u8>(p + 2) * yB + bias
    store<u8>(out + x, clamp8(sum >> 15))
  }
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
  for (let y = 0; y < height; y += 2) {
    const top = src + <usize>(y * stride)
    const bottom = top + <usize>stride
    lumaRow(top, width, yPlane + <usize>(y * width), yR, yG, yB, yBias)
    lumaRow(bottom, width, yPlane + <usize>((y + 1) * width), yR, yG, yB, yBias)
    const u = uPlane + <usize>((y >> 1) * cw)
    const v = vPlane + <usize>((y >> 1) * cw)
    for (let i = 0; i < cw; i++) {
      const left = i == 0 ? 0 : i * 8 - 4
      const p0 = v128.load32_zero(top + left)
      const q0 = v128.load32_zero(bottom + left)
      const p1 = v128.load64_zero(top + i * 8)
      const q1 = v128.load64_zero(bottom + i * 8)
      const before = i16x8.add(i16x8.extend_low_i8x16_u(p0), i16x8.extend_low_i8x16_u(q0))
      const here = i16x8.add(i16x8.extend_low_i8x16_u(p1), i16x8.extend_low_i8x16_u(q1))
      const after = v128.shuffle<i16>(here, here, 4, 5, 6, 7, 4, 5, 6, 7)
      const sum = i16x8.add(i16x8.add(before, after), i16x8.shl(here, 1))
      const both = i32x4.dot_i16x8_s(v128.shuffle<i16>(sum, sum, 0, 1, 2, 3, 0, 1, 2, 3), coefficients)
      store<u8>(u + i, clamp8((i32x4.extract_lane(both, 0) + i32x4.extract_lane(both, 1) + cBias) >> 18))
      store<u8>(v + i, clamp8((i32x4.extract_lane(both, 2) + i32x4.extract_lane(both, 3) + cBias) >> 18))
    }
  }
}
