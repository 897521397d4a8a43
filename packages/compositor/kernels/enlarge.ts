// Twice the size by going straight between pixels: what was made smaller to be blurred, brought back.

/** Two pixels of two rows together, three parts of the near one. */
// @ts-ignore: decorator
@inline
function mixed(near: usize, far: usize): v128 {
  const a = i16x8.extend_low_i8x16_u(v128.load64_zero(near))
  return i16x8.add(i16x8.add(a, i16x8.shl(a, 1)), i16x8.extend_low_i8x16_u(v128.load64_zero(far)))
}

/** The same for the first of them. */
// @ts-ignore: decorator
@inline
function mixedOne(near: usize, far: usize): v128 {
  const a = i16x8.extend_low_i8x16_u(v128.load32_zero(near))
  return i16x8.add(i16x8.add(a, i16x8.shl(a, 1)), i16x8.extend_low_i8x16_u(v128.load32_zero(far)))
}

/** Three parts of what is nearer and one of what is farther off, rounded. */
// @ts-ignore: decorator
@inline
function between(near: v128, far: v128): v128 {
  return i16x8.shr_u(i16x8.add(i16x8.add(i16x8.add(near, i16x8.shl(near, 1)), far), i16x8.splat(8)), 4)
}

/**
 * Twice the width and height of `sw` × `sh` pixels of premultiplied RGBA; at the edges the outermost ones stand for
 * what would lie beyond. Writes rows y0 … y1 of the larger picture.
 */
export function enlarge(src: usize, sw: i32, sh: i32, dst: usize, y0: i32, y1: i32): void {
  const stride = <usize>sw * 4
  for (let y = y0; y < y1; y++) {
    const row = y >> 1
    const near = src + <usize>row * stride
    const far = src + <usize>min(max(y & 1 ? row + 1 : row - 1, 0), sh - 1) * stride
    const out = dst + <usize>y * stride * 2
    const last = sw - 1
    let i = 1
    for (; i + 2 <= last; i += 2) {
      const at = <usize>i * 4
      const here = mixed(near + at, far + at)
      const even = between(here, mixed(near + at - 4, far + at - 4))
      const odd = between(here, mixed(near + at + 4, far + at + 4))
      const both = i8x16.narrow_i16x8_u(even, odd)
      v128.store(out + at * 2, v128.shuffle<i32>(both, both, 0, 2, 1, 3))
    }
    // The first one, and those that are left.
    for (let k = 0; k < sw; k = k == 0 ? max(i, 1) : k + 1) {
      const at = <usize>k * 4
      const left = <usize>max(k - 1, 0) * 4
      const right = <usize>min(k + 1, last) * 4
      const here = mixedOne(near + at, far + at)
      const even = between(here, mixedOne(near + left, far + left))
      const odd = between(here, mixedOne(near + right, far + right))
      const both = i8x16.narrow_i16x8_u(even, odd)
      v128.store64_lane(out + at * 2, v128.shuffle<i32>(both, both, 0, 2, 1, 3), 0)
    }
  }
}
