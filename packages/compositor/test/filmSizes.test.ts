import { describe, expect, it } from 'vitest'
import type { FramePlan, Matrix, PictureLayer } from '@dusk/timeline'
import { Compositor, i420Length, Picture } from '../src/index'
import { bytes, engine, largestDifference } from './helpers'

const cubic = (x: number) => {
  const t = Math.abs(x)
  return t < 1 ? 1.5 * t ** 3 - 2.5 * t ** 2 + 1 : t < 2 ? -0.5 * t ** 3 + 2.5 * t ** 2 - 4 * t + 2 : 0
}

/** What `n` samples come to at a place between them: cubic convolution in floating point, edges standing in. */
function weighed(n: number, centre: number, scale: number, sample: (k: number) => number): number {
  const stretch = Math.max(1, 1 / Math.abs(scale))
  let [sum, whole] = [0, 0]
  for (let k = Math.ceil(centre - 2 * stretch); k <= centre + 2 * stretch; k++) {
    const weight = cubic((k - centre) / stretch)
    sum += weight * sample(Math.min(Math.max(k, 0), n - 1))
    whole += weight
  }
  return sum / whole
}

/** Planes of a film at another size, straight from where its samples lie. */
function slowPlanes(planes: Uint8Array, width: number, height: number, m: Matrix, w: number, h: number): Float64Array {
  const out = new Float64Array(i420Length(w, h))
  const plane = (from: number, sw: number, sh: number, to: number, cols: number, rows: number, at: typeof luma) => {
    for (let y = 0; y < rows; y++)
      for (let x = 0; x < cols; x++) {
        const value = weighed(sh, at.y(y), m[3], (j) => weighed(sw, at.x(x), m[0], (i) => planes[from + j * sw + i]!))
        out[to + y * cols + x] = Math.min(Math.max(value, 0), 255)
      }
  }
  const across = (x: number) => (x + 0.5 - m[4]) / m[0] - 0.5
  const down = (y: number) => (y + 0.5 - m[5]) / m[3] - 0.5
  const luma = { x: across, y: down }
  // With the left of two columns, and between two rows, here as there.
  const chroma = { x: (x: number) => across(2 * x) / 2, y: (y: number) => (down(2 * y + 0.5) - 0.5) / 2 }
  plane(0, width, height, 0, w, h, luma)
  const [cw, ch, ow, oh] = [width, height, w, h].map((size) => (size + 1) >> 1) as [number, number, number, number]
  for (const n of [0, 1]) plane(width * height + n * cw * ch, cw, ch, w * h + n * ow * oh, ow, oh, chroma)
  return out
}

const layer = (width: number, height: number, matrix: Matrix): PictureLayer => ({
  ...{ kind: 'picture', assetId: 'a', time: 0, width, height, matrix, opacity: 1, alpha: false },
})
const planOf = (width: number, height: number, ...layers: PictureLayer[]): FramePlan => ({
  ...{ width, height, background: '#204060', layers, passThrough: false },
})

const CASES: [string, [number, number], Matrix, [number, number]][] = [
  ['half as large again', [32, 20], [1.5, 0, 0, 1.5, 0, 0], [48, 30]],
  ['of an odd size', [33, 21], [48 / 33, 0, 0, 30 / 21, 0, 0], [48, 30]],
  ['a part, moved', [32, 20], [2.2, 0, 0, 1.9, -7.3, -4.6], [48, 30]],
  ['smaller', [72, 48], [2 / 3, 0, 0, 2 / 3, 0, 0], [48, 32]],
  ['smaller on one side', [60, 20], [0.8, 0, 0, 1.5, 0, 0], [48, 30]],
  ['much larger', [6, 4], [8, 0, 0, 8, 0, 0], [48, 32]],
  ['of fewer samples than are looked at', [2, 2], [9, 0, 0, 8, 0, 0], [18, 16]],
]

describe('film at a size of its own', () => {
  it.each(CASES)('is sized plane by plane, each sample in its place: %s', async (_, [sw, sh], matrix, [w, h]) => {
    const e = await engine()
    const compositor = new Compositor(e)
    const picture = Picture.i420(e, sw, sh)
    picture.bytes().set(bytes(i420Length(sw, sh), sw))
    const expected = slowPlanes(picture.bytes().slice(), sw, sh, matrix, w, h)
    const planes = compositor.film.sized(picture, layer(sw, sh, matrix), w, h)!.slice()
    expect(largestDifference(planes, expected)).toBeLessThanOrEqual(0.8)
    // On screen it is what becomes of those planes, and nothing else.
    const shown = Picture.i420(e, w, h)
    shown.bytes().set(planes)
    const drawn = compositor.compose(planOf(w, h, layer(sw, sh, matrix)), [picture]).pixels()
    expect(largestDifference(drawn, shown.pixels())).toBe(0)
  })

  it('keeps its colours in their place, wherever on the canvas it lies and whichever way it is turned', async () => {
    const e = await engine()
    const compositor = new Compositor(e)
    const [sw, sh, w, h] = [40, 24, 81, 51]
    const film = Picture.i420(e, sw, sh)
    const [cw, size] = [sw / 2, sw * sh]
    // Chroma that goes slowly: brought up first and sized then, or the other way round, it is the same.
    film
      .bytes()
      .set(
        Uint8Array.from({ length: i420Length(sw, sh) }, (_, i) =>
          i < size ? 60 + (i % sw) * 3 : 90 + ((i - size) % cw) * 3 + 2 * ((((i - size) / cw) | 0) % (sh / 2)),
        ),
      )
    const pixels = Picture.rgba(e, sw, sh)
    pixels.bytes().set(film.pixels())
    for (const matrix of [
      [1.5, 0, 0, 1.5, 5.25, 3.5],
      [1.5, 0, 0, 1.5, 4, 7],
      [-1.7, 0, 0, 1.6, 75.5, 4],
      [0.7, 0, 0, -0.8, 11, 40],
    ] as Matrix[]) {
      const [fromPlanes, fromPixels] = [film, pixels].map((picture) =>
        compositor
          .compose(planOf(w, h, layer(sw, sh, matrix)), [picture])
          .pixels()
          .slice(),
      )
      expect(largestDifference(fromPlanes!, fromPixels!), `${matrix}`).toBeLessThanOrEqual(5)
    }
  })

  it('is of one colour where it was, up to its edges', async () => {
    const e = await engine()
    const compositor = new Compositor(e)
    const film = Picture.i420(e, 37, 23)
    film
      .bytes()
      .fill(126, 0, 851)
      .fill(90, 851, 851 + 19 * 12)
      .fill(170, 851 + 19 * 12)
    const [colour] = [film.pixels().slice(0, 4)]
    const drawn = compositor.compose(planOf(61, 41, layer(37, 23, [61 / 37, 0, 0, 41 / 23, 0, 0])), [film]).pixels()
    for (let i = 0; i < drawn.length; i += 4) expect([...drawn.subarray(i, i + 4)]).toEqual([...colour!])
  })

  it('is handed on as planes only where it is drawn from them', async () => {
    const e = await engine()
    const compositor = new Compositor(e)
    const film = Picture.i420(e, 32, 20)
    const planes = (picture: Picture, matrix: Matrix, w = 48, h = 30) =>
      compositor.film.sized(picture, layer(picture.width, picture.height, matrix), w, h)
    expect(planes(film, [1.5, 0, 0, 1.5, 0, 0])).not.toBeNull()
    // Untouched, halved, not filling the output, turned, of an odd size, in another range, or drawn.
    expect(planes(film, [1, 0, 0, 1, 0, 0], 32, 20)).toBeNull()
    expect(planes(film, [0.5, 0, 0, 0.5, 0, 0], 16, 10)).toBeNull()
    expect(planes(film, [1.4, 0, 0, 1.5, 0, 0])).toBeNull()
    expect(planes(film, [-1.5, 0, 0, 1.5, 48, 0])).toBeNull()
    expect(planes(film, [1.5, 0.1, 0, 1.5, 0, 0])).toBeNull()
    expect(planes(film, [47 / 32, 0, 0, 1.5, 0, 0], 47, 30)).toBeNull()
    expect(planes(Picture.i420(e, 32, 20, 'bt709', 'full'), [1.5, 0, 0, 1.5, 0, 0])).toBeNull()
    expect(planes(Picture.rgba(e, 32, 20), [1.5, 0, 0, 1.5, 0, 0])).toBeNull()
  })

  it('leaves nothing of the frame before, also where it is missing', async () => {
    const e = await engine()
    const compositor = new Compositor(e)
    const film = Picture.i420(e, 32, 20)
    film.bytes().fill(200)
    const plan = planOf(48, 30, layer(32, 20, [1.5, 0, 0, 1.5, 0, 0]))
    compositor.compose(plan, [film])
    const without = compositor.compose(plan, [null]).pixels()
    for (let i = 0; i < without.length; i += 4) expect([...without.subarray(i, i + 4)]).toEqual([0x20, 0x40, 0x60, 255])
    const used = e.heap.bytesInUse
    for (let i = 0; i < 20; i++) {
      film.changed()
      compositor.compose(plan, [film])
    }
    expect(e.heap.bytesInUse).toBeLessThan(used + 20_000)
  })
})
