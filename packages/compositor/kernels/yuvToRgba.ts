// 4:2:0 planes to opaque RGBA. Chroma is brought up linearly: co-sited with the left luma column and between two luma
// rows, as H.264 and MPEG-2 place it. Arithmetic: 13-bit coefficients, 32-bit sums, one rounding.

import { held } from './pixel'

/**
 * One chroma row for luma row `y`: three parts of the near row, one of the far one. Writes `n` bytes and one of
 * padding.
 */
function chromaRow(plane: usize, stride: i32, rows: i32, y: i32, n: i32, out: usize): void {
  const near = y >> 1
  const far = min(max(y & 1 ? near + 1 : near - 1, 0), rows - 1)
  const a = plane + <usize>(near * stride)
  const b = plane + <usize>(far * stride)
  const two = held(i16x8.splat(2))
  const three = held(i16x8.splat(3))
  let i = 0
  for (; i + 16 <= n; i += 16) {
    const p = v128.load(a + i)
    const q = v128.load(b + i)
    const low = i16x8.shr_u(
      i16x8.add(i16x8.add(i16x8.mul(i16x8.extend_low_i8x16_u(p), three), i16x8.extend_low_i8x16_u(q)), two),
      2,
    )
    const high = i16x8.shr_u(
      i16x8.add(i16x8.add(i16x8.mul(i16x8.extend_high_i8x16_u(p), three), i16x8.extend_high_i8x16_u(q)), two),
      2,
    )
    v128.store(out + i, i8x16.narrow_i16x8_u(low, high))
  }
  for (; i < n; i++) store<u8>(out + i, <u8>((<i32>load<u8>(a + i) * 3 + <i32>load<u8>(b + i) + 2) >> 2))
  store<u8>(out + n, load<u8>(out + n - 1))
}

// @ts-ignore: decorator
@inline
function clamp8(value: i32): u8 {
  return <u8>min(max(value, 0), 255)
}

/**
 * Eight pixels of luma (black taken off) and chroma (its middle taken off) as RGBA. `cR`, `cG`, `cB` hold coefficients
 * in pairs, for sums of products of neighbours; `cG2` what green has of V.
 */
// @ts-ignore: decorator
@inline
function writeEight(
  out: usize,
  l: v128,
  u: v128,
  v: v128,
  cR: v128,
  cG: v128,
  cG2: v128,
  cB: v128,
  half: v128,
  opaque: v128,
): void {
  const zero = i16x8.splat(0)
  const lvLow = v128.shuffle<i16>(l, v, 0, 8, 1, 9, 2, 10, 3, 11)
  const lvHigh = v128.shuffle<i16>(l, v, 4, 12, 5, 13, 6, 14, 7, 15)
  const luLow = v128.shuffle<i16>(l, u, 0, 8, 1, 9, 2, 10, 3, 11)
  const luHigh = v128.shuffle<i16>(l, u, 4, 12, 5, 13, 6, 14, 7, 15)
  const v0Low = v128.shuffle<i16>(v, zero, 0, 8, 1, 9, 2, 10, 3, 11)
  const v0High = v128.shuffle<i16>(v, zero, 4, 12, 5, 13, 6, 14, 7, 15)

  const r = i16x8.narrow_i32x4_s(
    i32x4.shr_s(i32x4.add(i32x4.dot_i16x8_s(lvLow, cR), half), 13),
    i32x4.shr_s(i32x4.add(i32x4.dot_i16x8_s(lvHigh, cR), half), 13),
  )
  const g = i16x8.narrow_i32x4_s(
    i32x4.shr_s(i32x4.add(i32x4.add(i32x4.dot_i16x8_s(luLow, cG), i32x4.dot_i16x8_s(v0Low, cG2)), half), 13),
    i32x4.shr_s(i32x4.add(i32x4.add(i32x4.dot_i16x8_s(luHigh, cG), i32x4.dot_i16x8_s(v0High, cG2)), half), 13),
  )
  const b = i16x8.narrow_i32x4_s(
    i32x4.shr_s(i32x4.add(i32x4.dot_i16x8_s(luLow, cB), half), 13),
    i32x4.shr_s(i32x4.add(i32x4.dot_i16x8_s(luHigh, cB), half), 13),
  )
  // Patterns that processors have an instruction for: neighbours interleaved.
  const rg = i8x16.narrow_i16x8_u(r, g)
  const ba = i8x16.narrow_i16x8_u(b, opaque)
  const rgs = v128.shuffle<u8>(rg, rg, 0, 8, 1, 9, 2, 10, 3, 11, 4, 12, 5, 13, 6, 14, 7, 15)
  const bas = v128.shuffle<u8>(ba, ba, 0, 8, 1, 9, 2, 10, 3, 11, 4, 12, 5, 13, 6, 14, 7, 15)
  v128.store(out, v128.shuffle<i16>(rgs, bas, 0, 8, 1, 9, 2, 10, 3, 11))
  v128.store(out + 16, v128.shuffle<i16>(rgs, bas, 4, 12, 5, 13, 6, 14, 7, 15))
}

/**
 * @param row scratch space of at least 2 × (width / 2 + 40) bytes
 * Works on rows y0 … y1.
 * @param yOff black level; yMul, rV, gU, gV, bU are coefficients times 8192
 */
export function yuvToRgba(
  yPlane: usize,
  yStride: i32,
  uPlane: usize,
  vPlane: usize,
  cStride: i32,
  width: i32,
  height: i32,
  dst: usize,
  row: usize,
  yOff: i32,
  yMul: i32,
  rV: i32,
  gU: i32,
  gV: i32,
  bU: i32,
  y0: i32,
  y1: i32,
): void {
  const cw = (width + 1) >> 1
  const ch = (height + 1) >> 1
  const uRow = row
  const vRow = row + <usize>(cw + 40)
  const off = held(i16x8.splat(<i16>yOff))
  const mid = held(i16x8.splat(128))
  const half = held(i32x4.splat(4096))
  // Coefficients in pairs, for sums of products of neighbours.
  const cR = held(i32x4.splat((rV << 16) | (yMul & 0xffff)))
  const cG = held(i32x4.splat((gU << 16) | (yMul & 0xffff)))
  const cG2 = held(i32x4.splat(gV & 0xffff))
  const cB = held(i32x4.splat((bU << 16) | (yMul & 0xffff)))
  const opaque = held(i16x8.splat(255))

  for (let y = y0; y < y1; y++) {
    chromaRow(uPlane, cStride, ch, y, cw, uRow)
    chromaRow(vPlane, cStride, ch, y, cw, vRow)
    const luma = yPlane + <usize>(y * yStride)
    const out = dst + <usize>(y * width) * 4
    let x = 0
    for (; x + 8 <= width; x += 8) {
      const i = <usize>(x >> 1)
      const u0 = v128.load32_zero(uRow + i)
      const u1 = i8x16.avgr_u(u0, v128.load32_zero(uRow + i + 1))
      const v0 = v128.load32_zero(vRow + i)
      const v1 = i8x16.avgr_u(v0, v128.load32_zero(vRow + i + 1))
      const us = v128.shuffle<u8>(u0, u1, 0, 16, 1, 17, 2, 18, 3, 19, 4, 20, 5, 21, 6, 22, 7, 23)
      const vs = v128.shuffle<u8>(v0, v1, 0, 16, 1, 17, 2, 18, 3, 19, 4, 20, 5, 21, 6, 22, 7, 23)
      const u = i16x8.sub(i16x8.extend_low_i8x16_u(us), mid)
      const v = i16x8.sub(i16x8.extend_low_i8x16_u(vs), mid)
      const l = i16x8.sub(i16x8.extend_low_i8x16_u(v128.load64_zero(luma + x)), off)

      writeEight(out + <usize>x * 4, l, u, v, cR, cG, cG2, cB, half, opaque)
    }
    for (; x < width; x++) {
      const i = <usize>(x >> 1)
      let u: i32 = load<u8>(uRow + i)
      let v: i32 = load<u8>(vRow + i)
      if (x & 1) {
        u = (u + <i32>load<u8>(uRow + i + 1) + 1) >> 1
        v = (v + <i32>load<u8>(vRow + i + 1) + 1) >> 1
      }
      u -= 128
      v -= 128
      const l = (<i32>load<u8>(luma + x) - yOff) * yMul + 4096
      store<u8>(out + x * 4, clamp8((l + rV * v) >> 13))
      store<u8>(out + x * 4 + 1, clamp8((l + gU * u + gV * v) >> 13))
      store<u8>(out + x * 4 + 2, clamp8((l + bU * u) >> 13))
      store<u8>(out + x * 4 + 3, 255)
    }
  }
}

/**
 * The same picture at half its size: each pixel is the mean of four luma samples, with the chroma that lies in their
 * middle. For pictures of even width and height. Works on rows y0 … y1 of the half.
 * @param dst holds width / 2 × height / 2 pixels
 */
export function yuvToHalfRgba(
  yPlane: usize,
  uPlane: usize,
  vPlane: usize,
  width: i32,
  dst: usize,
  yOff: i32,
  yMul: i32,
  rV: i32,
  gU: i32,
  gV: i32,
  bU: i32,
  y0: i32,
  y1: i32,
): void {
  const w = width >> 1
  const off = held(i16x8.splat(<i16>yOff))
  const mid = held(i16x8.splat(128))
  const half = held(i32x4.splat(4096))
  const two = held(i16x8.splat(2))
  const three = held(i16x8.splat(3))
  const cR = held(i32x4.splat((rV << 16) | (yMul & 0xffff)))
  const cG = held(i32x4.splat((gU << 16) | (yMul & 0xffff)))
  const cG2 = held(i32x4.splat(gV & 0xffff))
  const cB = held(i32x4.splat((bU << 16) | (yMul & 0xffff)))
  const opaque = held(i16x8.splat(255))
  for (let y = y0; y < y1; y++) {
    const top = yPlane + <usize>(y * 2 * width)
    const bottom = top + <usize>width
    const us = uPlane + <usize>(y * w)
    const vs = vPlane + <usize>(y * w)
    const out = dst + <usize>(y * w) * 4
    let x = 0
    for (; x + 9 <= w; x += 8) {
      const sums = i16x8.add(
        i16x8.extadd_pairwise_i8x16_u(v128.load(top + x * 2)),
        i16x8.extadd_pairwise_i8x16_u(v128.load(bottom + x * 2)),
      )
      const l = i16x8.sub(i16x8.shr_u(i16x8.add(sums, two), 2), off)
      // Chroma lies with the left luma column: the middle of a pair is a quarter of the way to the next sample.
      const u0 = i16x8.extend_low_i8x16_u(v128.load64_zero(us + x))
      const u1 = i16x8.extend_low_i8x16_u(v128.load64_zero(us + x + 1))
      const v0 = i16x8.extend_low_i8x16_u(v128.load64_zero(vs + x))
      const v1 = i16x8.extend_low_i8x16_u(v128.load64_zero(vs + x + 1))
      const u = i16x8.sub(i16x8.shr_u(i16x8.add(i16x8.add(i16x8.mul(u0, three), u1), two), 2), mid)
      const v = i16x8.sub(i16x8.shr_u(i16x8.add(i16x8.add(i16x8.mul(v0, three), v1), two), 2), mid)
      writeEight(out + <usize>x * 4, l, u, v, cR, cG, cG2, cB, half, opaque)
    }
    for (; x < w; x++) {
      const next = min(x + 1, w - 1)
      const u = ((<i32>load<u8>(us + x) * 3 + <i32>load<u8>(us + next) + 2) >> 2) - 128
      const v = ((<i32>load<u8>(vs + x) * 3 + <i32>load<u8>(vs + next) + 2) >> 2) - 128
      const i = <usize>x * 2
      const sum =
        <i32>load<u8>(top + i) + <i32>load<u8>(top + i + 1) + <i32>load<u8>(bottom + i) + <i32>load<u8>(bottom + i + 1)
      const l = (((sum + 2) >> 2) - yOff) * yMul + 4096
      store<u8>(out + x * 4, clamp8((l + rV * v) >> 13))
      store<u8>(out + x * 4 + 1, clamp8((l + gU * u + gV * v) >> 13))
      store<u8>(out + x * 4 + 2, clamp8((l + bU * u) >> 13))
      store<u8>(out + x * 4 + 3, 255)
    }
  }
}
