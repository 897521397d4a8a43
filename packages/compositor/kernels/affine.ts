// Pictures turned or skewed: bilinear sampling of premultiplied RGBA with edges smoothed by how much of a pixel the
// picture covers. The caller halves the source until at most two of its pixels fall on one of the output's.

// @ts-ignore: decorator
@inline
function pixel(p: usize): v128 {
  return f32x4.convert_i32x4_u(i32x4.extend_low_i16x8_u(i16x8.extend_low_i8x16_u(v128.load32_zero(p))))
}

// @ts-ignore: decorator
@inline
function unit(value: f32): f32 {
  return min<f32>(max<f32>(value, 0), 1)
}

/**
 * Draws `src` (sw × sh) over `dst` within columns x0…x1 and rows y0…y1. `ia … ifv` map output pixel centres to source
 * pixels. `perU` and `perV` are output pixels per source pixel across the picture's edges; `sizeU` and `sizeV` the
 * picture's true size in source pixels; `opacity` 0 to 1.
 */
export function drawAffine(
  src: usize,
  sw: i32,
  sh: i32,
  dst: usize,
  dstWidth: i32,
  x0: i32,
  y0: i32,
  x1: i32,
  y1: i32,
  ia: f64,
  ib: f64,
  ic: f64,
  id: f64,
  ie: f64,
  ifv: f64,
  perU: f32,
  perV: f32,
  sizeU: f32,
  sizeV: f32,
  opacity: f32,
): void {
  const lastX = <f32>(sw - 1)
  const lastY = <f32>(sh - 1)
  const stride = sw * 4
  const one = f32x4.splat(1)
  const over255 = f32x4.splat(1.0 / 255.0)
  for (let y = y0; y < y1; y++) {
    const cy = <f64>y + 0.5
    for (let x = x0; x < x1; x++) {
      const cx = <f64>x + 0.5
      const u = <f32>(ia * cx + ic * cy + ie)
      const v = <f32>(ib * cx + id * cy + ifv)
      const across = unit(u * perU + 0.5) * unit((sizeU - u) * perU + 0.5)
      const down = unit(v * perV + 0.5) * unit((sizeV - v) * perV + 0.5)
      const cover = across * down * opacity
      if (cover <= 0) continue
      const su = min<f32>(max<f32>(u - 0.5, 0), lastX)
      const sv = min<f32>(max<f32>(v - 0.5, 0), lastY)
      const iu = <i32>su
      const iv = <i32>sv
      const fu = f32x4.splat(su - <f32>iu)
      const fv = f32x4.splat(sv - <f32>iv)
      const right = iu + 1 < sw ? 4 : 0
      const below = iv + 1 < sh ? stride : 0
      const p = src + <usize>(iv * stride + iu * 4)
      const a = pixel(p)
      const b = pixel(p + right)
      const c = pixel(p + below)
      const d = pixel(p + below + right)
      const upper = f32x4.add(a, f32x4.mul(f32x4.sub(b, a), fu))
      const lower = f32x4.add(c, f32x4.mul(f32x4.sub(d, c), fu))
      const s = f32x4.mul(f32x4.add(upper, f32x4.mul(f32x4.sub(lower, upper), fv)), f32x4.splat(cover))
      const alpha = v128.shuffle<i32>(s, s, 3, 3, 3, 3)
      const q = dst + <usize>(y * dstWidth + x) * 4
      const mixed = f32x4.add(s, f32x4.mul(pixel(q), f32x4.sub(one, f32x4.mul(alpha, over255))))
      const words = i32x4.trunc_sat_f32x4_s(f32x4.nearest(mixed))
      const half = i16x8.narrow_i32x4_s(words, words)
      v128.store32_lane(q, i8x16.narrow_i16x8_u(half, half), 0)
    }
  }
}

/** Half size by averaging squares of four; an odd last column or row is repeated. `dst` holds ⌈sw/2⌉ × ⌈sh/2⌉ pixels. */
export function halve(src: usize, sw: i32, sh: i32, dst: usize): void {
  const dw = (sw + 1) >> 1
  const dh = (sh + 1) >> 1
  const two = i16x8.splat(2)
  for (let y = 0; y < dh; y++) {
    const top = src + <usize>(y * 2 * sw) * 4
    const bottom = src + <usize>(min(y * 2 + 1, sh - 1) * sw) * 4
    const out = dst + <usize>(y * dw) * 4
    for (let x = 0; x < dw; x++) {
      const l = <usize>(x * 2) * 4
      const r = <usize>min(x * 2 + 1, sw - 1) * 4
      const sum = i16x8.add(
        i16x8.add(
          i16x8.extend_low_i8x16_u(v128.load32_zero(top + l)),
          i16x8.extend_low_i8x16_u(v128.load32_zero(top + r)),
        ),
        i16x8.add(
          i16x8.extend_low_i8x16_u(v128.load32_zero(bottom + l)),
          i16x8.extend_low_i8x16_u(v128.load32_zero(bottom + r)),
        ),
      )
      const words = i16x8.shr_u(i16x8.add(sum, two), 2)
      v128.store32_lane(out + x * 4, i8x16.narrow_i16x8_u(words, words), 0)
    }
  }
}
