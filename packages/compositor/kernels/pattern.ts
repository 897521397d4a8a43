// Patterns a picture is broken into or lit with: dots, cells, scattered pixels, rows, soft discs.
import { lumaAt } from './outline'
import { loadPixel, storePixel, unit } from './pixel'
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
  const ink = f32x4(inkR, inkG, inkB, 255)
  const paper = f32x4(paperR, paperG, paperB, 255)
  for (let y = y0; y < y1; y++)
    for (let x = 0; x < w; x++) {
      const u = (<f32>x * cos + <f32>y * sin) / cell
      const v = (<f32>y * cos - <f32>x * sin) / cell
      const cu = floor<f32>(u) + 0.5
      const cv = floor<f32>(v) + 0.5
      // The picture at the middle of this dot's cell.
      const sx = min(max(<i32>((cu * cos - cv * sin) * cell), 0), w - 1)
      const sy = min(max(<i32>((cu * sin + cv * cos) * cell), 0), h - 1)
      const s = src + <usize>(sy * w + sx) * 4
      const p = src + <usize>(y * w + x) * 4
      const alpha = <f32>load<u8>(p, 3) / 255
      const dark: f32 = 1 - <f32>lumaAt(s) / 255
      const away = sqrt<f32>((u - cu) * (u - cu) + (v - cv) * (v - cv))
      // Dots that touch fill the cell at last: its corner lies 0.71 from the middle.
      const t = unit((sqrt<f32>(dark) * 0.71 - away) * cell + 0.5)
      const colour = f32x4.add(ink, f32x4.mul(f32x4.sub(loadPixel(s), ink), f32x4.splat(own)))
      const mixed = f32x4.add(paper, f32x4.mul(f32x4.sub(colour, paper), f32x4.splat(t)))
      const out = f32x4.mul(mixed, f32x4.splat(alpha))
      storePixel(dst + <usize>(y * w + x) * 4, v128.shuffle<i32>(out, loadPixel(p), 0, 1, 2, 7))
    }
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
  for (let y = y0; y < y1; y++)
    for (let x = 0; x < w; x++) {
      const gx = x / size
      const gy = y / size
      let least: f32 = 1e12
      let second: f32 = 1e12
      let best: usize = 0
      for (let j = 0; j < 3; j++) {
        let s = sites + <usize>((gy + j) * columns + gx) * 8
        for (let i = 0; i < 3; i++, s += 8) {
          const dx = load<f32>(s) - <f32>x
          const dy = load<f32>(s, 4) - <f32>y
          const d = dx * dx + dy * dy
          if (d < least) {
            second = least
            least = d
            best = s
          } else if (d < second) second = d
        }
      }
      const sx = min(max(<i32>load<f32>(best), 0), w - 1)
      const sy = min(max(<i32>load<f32>(best, 4), 0), h - 1)
      const pixel = loadPixel(src + <usize>(sy * w + sx) * 4)
      const near = sqrt<f32>(second) - sqrt<f32>(least)
      const dim: f32 = seam > 0 ? 0.35 + 0.65 * unit(near / seam) : 1
      const o = dst + <usize>(y * w + x) * 4
      const out = f32x4.mul(pixel, f32x4.splat(dim))
      storePixel(o, v128.shuffle<i32>(out, pixel, 0, 1, 2, 7))
    }
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
      const out = f32x4.min(f32x4.mul(pixel, by), v128.shuffle<i32>(pixel, pixel, 3, 3, 3, 3))
      storePixel(p, v128.shuffle<i32>(out, pixel, 0, 1, 2, 7))
    }
  }
}

/** Each channel as many times as bright; colour is held within alpha. */
export function gainColours(pixels: usize, n: i32, r: f32, g: f32, b: f32): void {
  const by = f32x4(r, g, b, 1)
  for (let p = pixels, end = pixels + <usize>n * 4; p < end; p += 4) {
    const pixel = loadPixel(p)
    storePixel(p, f32x4.min(f32x4.mul(pixel, by), v128.shuffle<i32>(pixel, pixel, 3, 3, 3, 3)))
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
  const light = f32x4(r, g, b, 255)
  const over = f32x4.splat(<f32>1 / 255)
  for (let y = y0; y < y1; y++)
    for (let x = x0; x < x1; x++) {
      const dx = <f32>x + 0.5 - cx
      const dy = <f32>y + 0.5 - cy
      const u = (dx * cos + dy * sin) / rx
      const v = (dy * cos - dx * sin) / ry
      const far = u * u + v * v
      if (far >= 1) continue
      const k = unit((1 - sqrt<f32>(far)) / soft)
      const t = f32x4.splat(k * k * (3 - 2 * k) * strength)
      const p = pixels + <usize>(y * w + x) * 4
      const pixel = loadPixel(p)
      const alpha = v128.shuffle<i32>(pixel, pixel, 3, 3, 3, 3)
      const full = f32x4.mul(f32x4.mul(light, alpha), over)
      const room = f32x4.mul(f32x4.mul(light, over), f32x4.sub(alpha, pixel))
      const way = paint != 0 ? f32x4.sub(full, pixel) : room
      storePixel(p, v128.shuffle<i32>(f32x4.add(pixel, f32x4.mul(way, t)), pixel, 0, 1, 2, 7))
    }
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
