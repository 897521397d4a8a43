// Cutting out by colour or by brightness.
import { storeCover } from './cover'
import { channel, loadFour, lumaOf, packed, storeFourPixels } from './pixel'

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
  const per = f32x4.splat(<f32>1 / max<f32>(soft, 0.5))
  const zero = f32x4.splat(0)
  const one = f32x4.splat(1)
  for (let i = 0; i < n; i += 4) {
    const left = n - i
    const four = loadFour(src + <usize>i * 4, left)
    const a = f32x4.convert_i32x4_s(channel(four, 24))
    // Colours of their own, not as they are laid down; where nothing is, nothing is covered.
    const whole = f32x4.div(f32x4.splat(255), f32x4.pmax(a, one))
    const r = f32x4.mul(f32x4.convert_i32x4_s(channel(four, 0)), whole)
    const g = f32x4.mul(f32x4.convert_i32x4_s(channel(four, 8)), whole)
    const b = f32x4.mul(f32x4.convert_i32x4_s(channel(four, 16)), whole)
    const cb = sumOf(r, g, b, -0.1146, -0.3854, 0.5)
    const cr = sumOf(r, g, b, 0.5, -0.4542, -0.0458)
    const l = sumOf(r, g, b, 0.2126, 0.7152, 0.0722)
    let least = f32x4.splat(1e9)
    for (let k = 0, s = samples; k < count; k++, s += 12) {
      const db = f32x4.sub(cb, f32x4.splat(load<f32>(s)))
      const dr = f32x4.sub(cr, f32x4.splat(load<f32>(s, 4)))
      const dl = f32x4.mul(f32x4.sub(l, f32x4.splat(load<f32>(s, 8))), f32x4.splat(shade))
      const d = f32x4.add(f32x4.add(f32x4.mul(db, db), f32x4.mul(dr, dr)), f32x4.mul(dl, dl))
      least = f32x4.pmin(least, d)
    }
    const t = f32x4.mul(f32x4.sub(f32x4.sqrt(least), f32x4.splat(tolerance)), per)
    const k = f32x4.pmin(f32x4.pmax(t, zero), one)
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
  const per = f32x4.splat(<f32>1 / max<f32>(soft, 0.5))
  const half = f32x4.splat(0.5)
  const zero = f32x4.splat(0)
  const one = f32x4.splat(1)
  for (let i = 0; i < n; i += 4) {
    const left = n - i
    const four = loadFour(src + <usize>i * 4, left)
    const l = f32x4.convert_i32x4_s(lumaOf(channel(four, 0), channel(four, 8), channel(four, 16)))
    const above = f32x4.add(f32x4.mul(f32x4.sub(l, f32x4.splat(low)), per), half)
    const below = f32x4.add(f32x4.mul(f32x4.sub(f32x4.splat(high), l), per), half)
    const t = f32x4.pmin(f32x4.pmax(f32x4.pmin(above, below), zero), one)
    const smooth = f32x4.mul(f32x4.mul(t, t), f32x4.sub(f32x4.splat(3), f32x4.add(t, t)))
    storeCover(plane + <usize>i, f32x4.mul(smooth, f32x4.splat(255)), left)
  }
}

/**
 * Takes a colour out of what it has shone on: colour differences lose what they have in its direction; as bright as
 * before.
 * @param cb direction, of length 1; `amount` 0…1
 */
export function despill(pixels: usize, n: i32, cb: f32, cr: f32, amount: f32): void {
  const zero = f32x4.splat(0)
  const backB = f32x4.splat(-cb * amount)
  const backR = f32x4.splat(-cr * amount)
  for (let i = 0; i < n; i += 4) {
    const p = pixels + <usize>i * 4
    const left = n - i
    const four = loadFour(p, left)
    const r = f32x4.convert_i32x4_s(channel(four, 0))
    const g = f32x4.convert_i32x4_s(channel(four, 8))
    const b = f32x4.convert_i32x4_s(channel(four, 16))
    const blue = sumOf(r, g, b, -0.1146, -0.3854, 0.5)
    const red = sumOf(r, g, b, 0.5, -0.4542, -0.0458)
    const along = f32x4.pmax(f32x4.add(f32x4.mul(blue, f32x4.splat(cb)), f32x4.mul(red, f32x4.splat(cr))), zero)
    if (!v128.any_true(along)) continue
    const a = channel(four, 24)
    const db = f32x4.mul(along, backB)
    const dr = f32x4.mul(along, backR)
    // The way back from colour differences (inverse of the matrix above), luma unchanged.
    const red2 = f32x4.add(r, f32x4.mul(dr, f32x4.splat(1.5748)))
    const green = f32x4.sub(g, f32x4.add(f32x4.mul(db, f32x4.splat(0.1873)), f32x4.mul(dr, f32x4.splat(0.4681))))
    const blue2 = f32x4.add(b, f32x4.mul(db, f32x4.splat(1.8556)))
    storeFourPixels(p, packed(within(red2, a), within(green, a), within(blue2, a), a), left)
  }
}

/** Rounded, and held between nothing and alpha. */
// @ts-ignore: decorator
@inline
function within(value: v128, alpha: v128): v128 {
  const whole = i32x4.trunc_sat_f32x4_s(f32x4.nearest(value))
  return i32x4.min_s(i32x4.max_s(whole, i32x4.splat(0)), alpha)
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
