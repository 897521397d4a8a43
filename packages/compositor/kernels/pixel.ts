// Helpers shared by kernels that work on one pixel at a time in floating point.

/** Four channels of a pixel as 0…255 in floats. */
// @ts-ignore: decorator
@inline
export function loadPixel(p: usize): v128 {
  return f32x4.convert_i32x4_u(i32x4.extend_low_i16x8_u(i16x8.extend_low_i8x16_u(v128.load32_zero(p))))
}

/** Writes four channels, rounded to nearest and held within 0…255. */
// @ts-ignore: decorator
@inline
export function storePixel(p: usize, value: v128): void {
  const words = i32x4.trunc_sat_f32x4_s(f32x4.nearest(value))
  const half = i16x8.narrow_i32x4_s(words, words)
  v128.store32_lane(p, i8x16.narrow_i16x8_u(half, half), 0)
}

/** A pixel's alpha in all four lanes. */
// @ts-ignore: decorator
@inline
export function alphaOf(pixel: v128): v128 {
  return v128.shuffle<i32>(pixel, pixel, 3, 3, 3, 3)
}

// @ts-ignore: decorator
@inline
export function unit(value: f32): f32 {
  return min<f32>(max<f32>(value, 0), 1)
}
