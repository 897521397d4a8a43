// Patterns a picture is broken into or lit with: dots, cells, scattered pixels, rows, soft discs.
import {
  channel,
  held,
  loadFour,
  loadPixel,
  loadTwo,
  lumaOf,
  packed,
  storeFourPixels,
  storeOne,
  storePixel,
  storeTwo,
} from './pixel'
import { hashed } from './texture'

/**
 * Dots of ink whose size is how dark the picture is there, on rows y0 … y1.
 * @param cell distance between dots in pixels; (cos, sin) the direction of their rows
 * @param own 1 dots have the picture's own colour, 0 the ink's; colours as 0…255
 */
export function halftone(
  src: usize,
  dst: usize,
  w: i32,
  h: i32,
  cell: f32,
  cos: f32,
  sin: f32,
  own: f32,
  inkR: f32,
  inkG: f32,
  inkB: f32,
  paperR: f32,
  paperG: f32,
  paperB: f32,
  y0: i32,
  y1: i32,
): void {
  const perCell = <f32>1 / cell
  const full = f32x4.splat(255)
  const lastX = i32x4.splat(w - 1)
  const lastY = i32x4.splat(h - 1)
  const none = i32x4.splat(0)
  const half = f32x4.splat(0.5)
  for (let y = y0; y < y1; y++) {
    const downU = f32x4.splat(<f32>y * sin * perCell)
    const downV = f32x4.splat(<f32>y * cos * perCell)
    for (let x = 0; x < w; x += 4) {
      const fx = f32x4(<f32>x, <f32>(x + 1), <f32>(x + 2), <f32>(x + 3))
      const u = f32x4.add(f32x4.mul(fx, f32x4.splat(cos * perCell)), downU)
      const v = f32x4.sub(downV, f32x4.mul(fx, f32x4.splat(sin * perCell)))
      const cu = f32x4.add(f32x4.floor(u), half)
      const cv = f32x4.add(f32x4.floor(v), half)
      // The picture at the middle of each one's cell.
      const mx = f32x4.sub(f32x4.mul(cu, f32x4.splat(cos * cell)), f32x4.mul(cv, f32x4.splat(sin * cell)))
      const my = f32x4.add(f32x4.mul(cu, f32x4.splat(sin * cell)), f32x4.mul(cv, f32x4.splat(cos * cell)))
      const sx = i32x4.min_s(i32x4.max_s(i32x4.trunc_sat_f32x4_s(mx), none), lastX)
      const sy = i32x4.min_s(i32x4.max_s(i32x4.trunc_sat_f32x4_s(my), none), lastY)
      const at = i32x4.shl(i32x4.add(i32x4.mul(sy, i32x4.splat(w)), sx), 2)
      const middle = i32x4(
        load<i32>(src + <usize>i32x4.extract_lane(at, 0)),
        load<i32>(src + <usize>i32x4.extract_lane(at, 1)),
        load<i32>(src + <usize>i32x4.extract_lane(at, 2)),
        load<i32>(src + <usize>i32x4.extract_lane(at, 3)),
      )
      const r = channel(middle, 0)
      const g = channel(middle, 8)
      const b = channel(middle, 16)
      const dark = f32x4.sub(f32x4.splat(1), f32x4.div(f32x4.convert_i32x4_s(lumaOf(r, g, b)), full))
      const du = f32x4.sub(u, cu)
      const dv = f32x4.sub(v, cv)
      const away = f32x4.sqrt(f32x4.add(f32x4.mul(du, du), f32x4.mul(dv, dv)))
      // Dots that touch fill the cell at last: its corner lies 0.71 from the middle.
      const inside = f32x4.sub(f32x4.mul(f32x4.sqrt(dark), f32x4.splat(0.71)), away)
      const reach = f32x4.add(f32x4.mul(inside, f32x4.splat(cell)), half)
      const t = f32x4.pmin(f32x4.pmax(reach, f32x4.splat(0)), f32x4.splat(1))
      const left = w - x
      const o = <usize>(y * w + x) * 4
      const a = channel(loadFour(src + o, left), 24)
      const alpha = f32x4.div(f32x4.convert_i32x4_s(a), full)
      const out = packed(
        printed(r, inkR, paperR, own, t, alpha),
        printed(g, inkG, paperG, own, t, alpha),
        printed(b, inkB, paperB, own, t, alpha),
        a,
      )
      storeFourPixels(dst + o, out, left)
    }
  }
}

/** A channel of four pixels: ink, or the picture's own colour, over paper by `t`. */
// @ts-ignore: decorator
@inline
function printed(own: v128, ink: f32, paper: f32, part: f32, t: v128, alpha: v128): v128 {
  const inks = f32x4.splat(ink)
  const ground = f32x4.splat(paper)
  const colour = f32x4.add(inks, f32x4.mul(f32x4.sub(f32x4.convert_i32x4_s(own), inks), f32x4.splat(part)))
  const mixed = f32x4.add(ground, f32x4.mul(f32x4.sub(colour, ground), t))
  return i32x4.trunc_sat_f32x4_s(f32x4.nearest(f32x4.mul(mixed, alpha)))
}

/**
 * The picture in cells about points that lie irregularly, each of the colour at its point (G. Voronoi), on rows
 * y0 … y1.
 * @param sites x and y of a point as floats for each cell of a grid of `size` pixels that begins a cell before the
 *   picture, `columns` a row
 * @param seam pixels of the dark line between cells
 */
export function cells(
  src: usize,
  dst: usize,
  w: i32,
  h: i32,
  sites: usize,
  columns: i32,
  size: i32,
  seam: f32,
  y0: i32,
  y1: i32,
): void {
  for (let y = y0; y < y1; y++) {
    const gy = y / size
    const fy = f32x4.splat(<f32>y)
    for (let gx = 0; gx * size < w; gx++) {
      const end = min((gx + 1) * size, w)
      for (let x = gx * size; x < end; x += 4) {
        const fx = f32x4(<f32>x, <f32>(x + 1), <f32>(x + 2), <f32>(x + 3))
        let least = f32x4.splat(1e12)
        let second = least
        let best = i32x4.splat(0)
        for (let j = 0; j < 3; j++) {
          let s = sites + <usize>((gy + j) * columns + gx) * 8
          for (let i = 0; i < 3; i++, s += 8) {
            const dx = f32x4.sub(v128.load32_splat(s), fx)
            const dy = f32x4.sub(v128.load32_splat(s, 4), fy)
            const d = f32x4.add(f32x4.mul(dx, dx), f32x4.mul(dy, dy))
            best = v128.bitselect(i32x4.splat(<i32>s), best, f32x4.lt(d, least))
            // The nearer of this one and what was second, or what was nearest and is not any more.
            second = f32x4.pmin(second, f32x4.pmax(d, least))
            least = f32x4.pmin(least, d)
          }
        }
        let dim = f32x4.splat(1)
        if (seam > 0) {
          const near = f32x4.div(f32x4.sub(f32x4.sqrt(second), f32x4.sqrt(least)), f32x4.splat(seam))
          const within = f32x4.pmin(f32x4.pmax(near, f32x4.splat(0)), f32x4.splat(1))
          dim = f32x4.add(f32x4.splat(0.35), f32x4.mul(within, f32x4.splat(0.65)))
        }
        const o = dst + <usize>(y * w + x) * 4
        cell(o, src, w, h, <usize>i32x4.extract_lane(best, 0), f32x4.extract_lane(dim, 0))
        if (x + 1 < end) cell(o + 4, src, w, h, <usize>i32x4.extract_lane(best, 1), f32x4.extract_lane(dim, 1))
        if (x + 2 < end) cell(o + 8, src, w, h, <usize>i32x4.extract_lane(best, 2), f32x4.extract_lane(dim, 2))
        if (x + 3 < end) cell(o + 12, src, w, h, <usize>i32x4.extract_lane(best, 3), f32x4.extract_lane(dim, 3))
      }
    }
  }
}

/** A pixel as the picture is at a site, darkened. */
// @ts-ignore: decorator
@inline
function cell(o: usize, src: usize, w: i32, h: i32, site: usize, dim: f32): void {
  const sx = min(max(<i32>load<f32>(site), 0), w - 1)
  const sy = min(max(<i32>load<f32>(site, 4), 0), h - 1)
  const p = src + <usize>(sy * w + sx) * 4
  if (dim >= 1) {
    store<u32>(o, load<u32>(p))
    return
  }
  const pixel = loadPixel(p)
  storePixel(o, v128.shuffle<i32>(f32x4.mul(pixel, f32x4.splat(dim)), pixel, 0, 1, 2, 7))
}

/** Each pixel is one from up to `reach` pixels away, thrown by dice, on rows y0 … y1. */
export function scatter(src: usize, dst: usize, w: i32, h: i32, seed: i32, reach: i32, y0: i32, y1: i32): void {
  const span = 2 * reach + 1
  for (let y = y0; y < y1; y++)
    for (let x = 0; x < w; x++) {
      const dice = hashed(x, y, seed)
      const sx = min(max(x + <i32>(((<u32>dice) & 0xffff) % <u32>span) - reach, 0), w - 1)
      const sy = min(max(y + <i32>(((<u32>dice) >>> 16) % <u32>span) - reach, 0), h - 1)
      store<u32>(dst + <usize>(y * w + x) * 4, load<u32>(src + <usize>(sy * w + sx) * 4))
    }
}

/** Each row as many times as bright as `gains` says, a float a row; colour is held within alpha. */
export function rowGain(pixels: usize, w: i32, h: i32, gains: usize): void {
  for (let y = 0; y < h; y++) {
    const by = f32x4.splat(load<f32>(gains + <usize>y * 4))
    for (let p = pixels + <usize>(y * w) * 4, end = p + <usize>w * 4; p < end; p += 4) {
      const pixel = loadPixel(p)
      const out = f32x4.pmin(f32x4.mul(pixel, by), v128.shuffle<i32>(pixel, pixel, 3, 3, 3, 3))
      storePixel(p, v128.shuffle<i32>(out, pixel, 0, 1, 2, 7))
    }
  }
}

/** Each channel as many times as bright; colour is held within alpha. */
export function gainColours(pixels: usize, n: i32, r: f32, g: f32, b: f32): void {
  const by = f32x4(r, g, b, 1)
  for (let p = pixels, end = pixels + <usize>n * 4; p < end; p += 4) {
    const pixel = loadPixel(p)
    storePixel(p, f32x4.pmin(f32x4.mul(pixel, by), v128.shuffle<i32>(pixel, pixel, 3, 3, 3, 3)))
  }
}

/**
 * Light or paint in a turned ellipse that is soft towards its edge.
 * @param cx middle in pixels; `rx`, `ry` half axes, turned by (cos, sin)
 * @param soft part of the way to the middle, 0…1, over which it comes
 * @param paint 0 lightens as projected light does (screen), 1 covers; colours as 0…255
 */
export function softDisc(
  pixels: usize,
  w: i32,
  h: i32,
  cx: f32,
  cy: f32,
  rx: f32,
  ry: f32,
  cos: f32,
  sin: f32,
  r: f32,
  g: f32,
  b: f32,
  strength: f32,
  soft: f32,
  paint: i32,
): void {
  const wide = sqrt<f32>(rx * rx * cos * cos + ry * ry * sin * sin)
  const tall = sqrt<f32>(rx * rx * sin * sin + ry * ry * cos * cos)
  const x0 = max(<i32>floor<f32>(cx - wide), 0)
  const x1 = min(<i32>ceil<f32>(cx + wide) + 1, w)
  const y0 = max(<i32>floor<f32>(cy - tall), 0)
  const y1 = min(<i32>ceil<f32>(cy + tall) + 1, h)
  const light = held(lightOf(r, g, b))
  const perX = <f32>1 / rx
  const perY = <f32>1 / ry
  const one = f32x4.splat(1)
  const zero = f32x4.splat(0)
  for (let y = y0; y < y1; y++) {
    const dy = <f32>y + 0.5 - cy
    const downU = f32x4.splat(dy * sin * perX)
    const downV = f32x4.splat(dy * cos * perY)
    for (let x = x0; x < x1; x += 4) {
      const first = <f32>x - cx
      const dx = f32x4(first + 0.5, first + 1.5, first + 2.5, first + 3.5)
      const u = f32x4.add(f32x4.mul(dx, f32x4.splat(cos * perX)), downU)
      const v = f32x4.sub(downV, f32x4.mul(dx, f32x4.splat(sin * perY)))
      const far = f32x4.add(f32x4.mul(u, u), f32x4.mul(v, v))
      if (!v128.any_true(f32x4.lt(far, one))) continue
      const depth = f32x4.mul(f32x4.sub(one, f32x4.sqrt(far)), f32x4.splat(<f32>1 / soft))
      const k = f32x4.pmin(f32x4.pmax(depth, zero), one)
      const smooth = f32x4.mul(f32x4.mul(k, k), f32x4.sub(f32x4.splat(3), f32x4.add(k, k)))
      // Parts of 15 bits, and each for three channels; alpha stays.
      const parts = i32x4.trunc_sat_f32x4_s(f32x4.mul(smooth, f32x4.splat(min<f32>(strength, 1) * 32767)))
      const low = i8x16.swizzle(parts, i8x16(0, 1, 0, 1, 0, 1, -1, -1, 4, 5, 4, 5, 4, 5, -1, -1))
      const high = i8x16.swizzle(parts, i8x16(8, 9, 8, 9, 8, 9, -1, -1, 12, 13, 12, 13, 12, 13, -1, -1))
      const p = pixels + <usize>(y * w + x) * 4
      const left = x1 - x
      if (left >= 4) {
        storeTwo(p, lightened(loadTwo(p), light, low, paint))
        storeTwo(p + 8, lightened(loadTwo(p + 8), light, high, paint))
        continue
      }
      storeOne(p, lightened(oneOf(p), light, low, paint))
      if (left > 1) storeOne(p + 4, lightened(oneOf(p + 4), light, v128.shuffle<i64>(low, low, 1, 1), paint))
      if (left > 2) storeOne(p + 8, lightened(oneOf(p + 8), light, high, paint))
    }
  }
}

/** A colour of 0…255 as factors, twice. */
// @ts-ignore: decorator
@inline
function lightOf(r: f32, g: f32, b: f32): v128 {
  const x = <i16>(r * 128.498)
  const y = <i16>(g * 128.498)
  const z = <i16>(b * 128.498)
  return i16x8(x, y, z, 0, x, y, z, 0)
}

/** One pixel in 8.7 fixed point. */
// @ts-ignore: decorator
@inline
function oneOf(p: usize): v128 {
  return i16x8.shl(i16x8.extend_low_i8x16_u(v128.load32_zero(p)), 7)
}

/** Two pixels with light on them by their own parts of it: projected, or with `paint` 1 covering. */
// @ts-ignore: decorator
@inline
function lightened(two: v128, light: v128, by: v128, paint: i32): v128 {
  const alpha = v128.shuffle<i16>(two, two, 3, 3, 3, 3, 7, 7, 7, 7)
  const way =
    paint != 0
      ? i16x8.sub(i16x8.q15mulr_sat_s(alpha, light), two)
      : i16x8.q15mulr_sat_s(i16x8.sub(alpha, two), light)
  return i16x8.add(two, i16x8.q15mulr_sat_s(way, by))
}

/** Pixels of a rectangle at another place; what reaches beyond either picture is left out. */
export function moveRect(
  src: usize,
  dst: usize,
  w: i32,
  h: i32,
  x: i32,
  y: i32,
  rw: i32,
  rh: i32,
  toX: i32,
  toY: i32,
): void {
  const left = max(max(-x, -toX), 0)
  const right = min(min(w - x, w - toX), rw)
  if (right <= left) return
  for (let j = 0; j < rh; j++) {
    const from = y + j
    const to = toY + j
    if (from < 0 || from >= h || to < 0 || to >= h) continue
    memory.copy(
      dst + <usize>(to * w + toX + left) * 4,
      src + <usize>(from * w + x + left) * 4,
      <usize>(right - left) * 4,
    )
  }
}
