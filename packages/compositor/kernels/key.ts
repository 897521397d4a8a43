// Cutting out by colour or by brightness.
import { storeCover } from './mask'
import { lumaAt } from './outline'
import { unit } from './pixel'

/** The two colour differences of a pixel, Cb and Cr of ITU-R BT.709, about −128…128. */
// @ts-ignore: decorator
@inline
function blueOf(r: f32, g: f32, b: f32): f32 {
  return -0.1146 * r - 0.3854 * g + 0.5 * b
}
// @ts-ignore: decorator
@inline
function redOf(r: f32, g: f32, b: f32): f32 {
  return 0.5 * r - 0.4542 * g - 0.0458 * b
}

/**
 * Coverage by distance from colours: none at one of them, all beyond tolerance and softness.
 * @param samples Cb, Cr and luma of each colour, three floats (0…255)
 * @param tolerance distance of colour differences below which nothing is left; `soft` over which it comes
 * @param shade how much brightness counts beside colour, 0…1
 */
export function keyColours(
  src: usize,
  plane: usize,
  n: i32,
  samples: usize,
  count: i32,
  tolerance: f32,
  soft: f32,
  shade: f32,
): void {
  const byte = i32x4.splat(255)
  const per = f32x4.splat(<f32>1 / max<f32>(soft, 0.5))
  const zero = f32x4.splat(0)
  const one = f32x4.splat(1)
  for (let i = 0; i < n; i += 4) {
    const p = src + <usize>i * 4
    const left = n - i
    const four =
      left >= 4
        ? v128.load(p)
        : i32x4(load<i32>(p), left > 1 ? load<i32>(p, 4) : 0, left > 2 ? load<i32>(p, 8) : 0, 0)
    const a = f32x4.convert_i32x4_s(i32x4.shr_u(four, 24))
    // Colours of their own, not as they are laid down; where nothing is, nothing is covered.
    const whole = f32x4.div(f32x4.splat(255), f32x4.max(a, one))
    const r = f32x4.mul(f32x4.convert_i32x4_s(v128.and(four, byte)), whole)
    const g = f32x4.mul(f32x4.convert_i32x4_s(v128.and(i32x4.shr_u(four, 8), byte)), whole)
    const b = f32x4.mul(f32x4.convert_i32x4_s(v128.and(i32x4.shr_u(four, 16), byte)), whole)
    const cb = sumOf(r, g, b, -0.1146, -0.3854, 0.5)
    const cr = sumOf(r, g, b, 0.5, -0.4542, -0.0458)
    const l = sumOf(r, g, b, 0.2126, 0.7152, 0.0722)
    let least = f32x4.splat(1e9)
    for (let k = 0, s = samples; k < count; k++, s += 12) {
      const db = f32x4.sub(cb, f32x4.splat(load<f32>(s)))
      const dr = f32x4.sub(cr, f32x4.splat(load<f32>(s, 4)))
      const dl = f32x4.mul(f32x4.sub(l, f32x4.splat(load<f32>(s, 8))), f32x4.splat(shade))
      const d = f32x4.add(f32x4.add(f32x4.mul(db, db), f32x4.mul(dr, dr)), f32x4.mul(dl, dl))
      least = f32x4.min(least, d)
    }
    const t = f32x4.mul(f32x4.sub(f32x4.sqrt(least), f32x4.splat(tolerance)), per)
    const k = f32x4.min(f32x4.max(t, zero), one)
    const cover = f32x4.mul(f32x4.mul(f32x4.mul(k, k), f32x4.sub(f32x4.splat(3), f32x4.add(k, k))), f32x4.splat(255))
    storeCover(plane + <usize>i, v128.and(cover, f32x4.gt(a, zero)), left)
  }
}

// @ts-ignore: decorator
@inline
function sumOf(r: v128, g: v128, b: v128, x: f32, y: f32, z: f32): v128 {
  return f32x4.add(
    f32x4.add(f32x4.mul(r, f32x4.splat(x)), f32x4.mul(g, f32x4.splat(y))),
    f32x4.mul(b, f32x4.splat(z)),
  )
}

/** Coverage by luma: all between `low` and `high` (0…255), coming and going over `soft`. */
export function keyLuma(src: usize, plane: usize, n: i32, low: f32, high: f32, soft: f32): void {
  const wide = max<f32>(soft, 0.5)
  for (let i: usize = 0, end = <usize>n; i < end; i++) {
    const l = <f32>lumaAt(src + i * 4)
    const t = min(unit((l - low) / wide + 0.5), unit((high - l) / wide + 0.5))
    store<u8>(plane + i, <u8>nearest<f32>(t * t * (3 - 2 * t) * 255))
  }
}

/**
 * Takes a colour out of what it has shone on: colour differences lose what they have in its direction; as bright as
 * before.
 * @param cb direction, of length 1; `amount` 0…1
 */
export function despill(pixels: usize, n: i32, cb: f32, cr: f32, amount: f32): void {
  for (let i: usize = 0, end = <usize>n * 4; i < end; i += 4) {
    const p = pixels + i
    const r = <f32>load<u8>(p)
    const g = <f32>load<u8>(p, 1)
    const b = <f32>load<u8>(p, 2)
    const a = <f32>load<u8>(p, 3)
    const along = blueOf(r, g, b) * cb + redOf(r, g, b) * cr
    if (along <= 0) continue
    const db = -along * cb * amount
    const dr = -along * cr * amount
    // The way back from colour differences (inverse of the matrix above), luma unchanged.
    store<u8>(p, <u8>nearest<f32>(min<f32>(max<f32>(r + 1.5748 * dr, 0), a)))
    store<u8>(p, <u8>nearest<f32>(min<f32>(max<f32>(g - 0.1873 * db - 0.4681 * dr, 0), a)), 1)
    store<u8>(p, <u8>nearest<f32>(min<f32>(max<f32>(b + 1.8556 * db, 0), a)), 2)
  }
}

/** What is left over a board of squares, or with `matte` 1 the coverage itself in grey. */
export function showCover(pixels: usize, plane: usize, w: i32, h: i32, size: i32, matte: i32): void {
  for (let y = 0; y < h; y++)
    for (let x = 0; x < w; x++) {
      const i = <usize>(y * w + x)
      const p = pixels + i * 4
      const c = <u32>load<u8>(plane + i)
      if (matte != 0) {
        store<u32>(p, 0xff000000 | (c << 16) | (c << 8) | c)
        continue
      }
      const board: u32 = ((x / size + y / size) & 1) != 0 ? 96 : 128
      const rest = 255 - <u32>load<u8>(p, 3)
      store<u8>(p, <u8>(<u32>load<u8>(p) + (board * rest + 127) / 255))
      store<u8>(p, <u8>(<u32>load<u8>(p, 1) + (board * rest + 127) / 255), 1)
      store<u8>(p, <u8>(<u32>load<u8>(p, 2) + (board * rest + 127) / 255), 2)
      store<u8>(p, 255, 3)
    }
}
