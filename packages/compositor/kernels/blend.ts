// Source-over on premultiplied RGBA. Pixels are held as 8.7 fixed point while they are mixed; products round once.

/** `opacity` is 0 to 32768. Both rows are premultiplied; `n` pixels. */
export function blendRow(src: usize, dst: usize, n: i32, opacity: i32): void {
  const full = opacity >= 32768
  const o = i16x8.splat(<i16>min(opacity, 32767))
  const top = i16x8.splat(32640)
  const half = i16x8.splat(64)
  let x = 0
  for (; x < n; x += 2) {
    const pair = x + 2 <= n
    const s8 = pair ? v128.load64_zero(src + x * 4) : v128.load32_zero(src + x * 4)
    const d8 = pair ? v128.load64_zero(dst + x * 4) : v128.load32_zero(dst + x * 4)
    let s = i16x8.shl(i16x8.extend_low_i8x16_u(s8), 7)
    if (!full) s = i16x8.q15mulr_sat_s(s, o)
    const d = i16x8.shl(i16x8.extend_low_i8x16_u(d8), 7)
    const inverse = i16x8.sub(top, v128.shuffle<i16>(s, s, 3, 3, 3, 3, 7, 7, 7, 7))
    const scaled = i16x8.add(inverse, i16x8.shr_u(inverse, 8))
    const sum = i16x8.add_sat_s(s, i16x8.q15mulr_sat_s(d, scaled))
    const words = i16x8.shr_u(i16x8.add_sat_s(sum, half), 7)
    const bytes = i8x16.narrow_i16x8_u(words, words)
    if (pair) v128.store64_lane(dst + x * 4, bytes, 0)
    else v128.store32_lane(dst + x * 4, bytes, 0)
  }
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
