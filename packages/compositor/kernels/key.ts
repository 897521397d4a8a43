// Cutting out by colour or by brightness.
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
  for (let i: usize = 0, end = <usize>n; i < end; i++) {
    const p = src + i * 4
    const a = <f32>load<u8>(p, 3)
    if (a == 0) {
      store<u8>(plane + i, 0)
      continue
    }
    const per: f32 = 255 / a
    const r = <f32>load<u8>(p) * per
    const g = <f32>load<u8>(p, 1) * per
    const b = <f32>load<u8>(p, 2) * per
    const cb = blueOf(r, g, b)
    const cr = redOf(r, g, b)
    const l: f32 = 0.2126 * r + 0.7152 * g + 0.0722 * b
    let least: f32 = 1e9
    for (let k = 0, s = samples; k < count; k++, s += 12) {
      const db = cb - load<f32>(s)
      const dr = cr - load<f32>(s, 4)
      const dl = (l - load<f32>(s, 8)) * shade
      least = min(least, db * db + dr * dr + dl * dl)
    }
    const t = unit((sqrt<f32>(least) - tolerance) / max<f32>(soft, 0.5))
    store<u8>(plane + i, <u8>nearest<f32>(t * t * (3 - 2 * t) * 255))
  }
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
