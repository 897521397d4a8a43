import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import {
  invert,
  multiply,
  rotation,
  scaling,
  translation,
  type FramePlan,
  type LayerPlan,
  type Matrix,
} from '@dusk/timeline'
import { Compositor, Heap, Picture, resampleTable } from '../src/index'
import { bytes, engine, largestDifference } from './helpers'

function layer(width: number, height: number, matrix: Matrix, opacity = 1, alpha = false): LayerPlan {
  return { kind: 'picture', assetId: 'a', time: 0, width, height, matrix, opacity, alpha }
}

function plan(width: number, height: number, layers: LayerPlan[], background = '#204060'): FramePlan {
  return { width, height, background, layers, passThrough: false }
}

/** Premultiplied pixels with some transparency. */
function glassy(w: number, h: number, seed: number): Uint8Array {
  const p = bytes(w * h * 4, seed)
  for (let i = 0; i < p.length; i += 4) for (let k = 0; k < 3; k++) p[i + k] = Math.round((p[i + k]! * p[i + 3]!) / 255)
  return p
}

const cubic = (x: number) => {
  const t = Math.abs(x)
  return t < 1 ? 1.5 * t ** 3 - 2.5 * t ** 2 + 1 : t < 2 ? -0.5 * t ** 3 + 2.5 * t ** 2 - 4 * t + 2 : 0
}

/** Cubic resampling and source-over in floating point, pixel by pixel, straight from the definition. */
function slowUpright(
  src: Uint8Array,
  sw: number,
  sh: number,
  m: Matrix,
  opacity: number,
  w: number,
  h: number,
): Float64Array {
  const out = new Float64Array(w * h * 4)
  for (let i = 0; i < out.length; i += 4) out.set([0x20, 0x40, 0x60, 255], i)
  const taps = (n: number, scale: number, offset: number, at: number) => {
    const stretch = Math.max(1, 1 / scale)
    const centre = (at + 0.5 - offset) / scale - 0.5
    const found: [number, number][] = []
    for (let k = Math.ceil(centre - 2 * stretch); k <= centre + 2 * stretch; k++)
      found.push([Math.min(Math.max(k, 0), n - 1), cubic((k - centre) / stretch)])
    const sum = found.reduce((total, [, weight]) => total + weight, 0)
    return found.map(([k, weight]) => [k, weight / sum] as const)
  }
  const cover = (low: number, high: number, at: number) => Math.max(0, Math.min(high, at + 1) - Math.max(low, at))
  for (let y = 0; y < h; y++)
    for (let x = 0; x < w; x++) {
      const c = cover(m[4], m[4] + m[0] * sw, x) * cover(m[5], m[5] + m[3] * sh, y) * opacity
      if (c <= 0) continue
      const pixel = [0, 0, 0, 0]
      for (const [j, wj] of taps(sh, m[3], m[5], y))
        for (const [i, wi] of taps(sw, m[0], m[4], x))
          for (let k = 0; k < 4; k++) pixel[k]! += src[(j * sw + i) * 4 + k]! * wi * wj
      const alpha = Math.min(Math.max(pixel[3]!, 0), 255)
      for (let k = 0; k < 4; k++) {
        const s = Math.min(Math.max(pixel[k]!, 0), alpha) * c
        const at = (y * w + x) * 4 + k
        out[at] = s + out[at]! * (1 - (alpha * c) / 255)
      }
    }
  return out
}

describe('upright layers', () => {
  const cases: [string, Matrix, number][] = [
    ['same size', [1, 0, 0, 1, 0, 0], 1],
    ['same size, moved by whole pixels, half seen', [1, 0, 0, 1, 7, -5], 0.5],
    ['moved by part of a pixel', [1, 0, 0, 1, 3.25, 2.6], 1],
    ['larger', [1.7, 0, 0, 2.3, -4, 1.5], 1],
    ['smaller', [0.41, 0, 0, 0.37, 5.2, 3.1], 0.8],
    ['much smaller', [0.05, 0, 0, 0.07, 10, 10], 1],
    ['a sliver of a pixel', [0.01, 0, 0, 1, 20.3, 0], 1],
  ]
  for (const [name, matrix, opacity] of cases)
    it(`is what the definition says: ${name}`, async () => {
      const e = await engine()
      const compositor = new Compositor(e)
      const [sw, sh, w, h] = [45, 37, 64, 48]
      const source = Picture.rgba(e, sw, sh)
      const pixels = glassy(sw, sh, 5)
      source.bytes().set(pixels)
      const drawn = compositor.compose(plan(w, h, [layer(sw, sh, matrix, opacity, true)]), [source]).pixels()
      const expected = slowUpright(pixels, sw, sh, matrix, opacity, w, h)
      expect(largestDifference(drawn, expected)).toBeLessThanOrEqual(1.6)
    })

  it('copies an opaque picture untouched', async () => {
    const e = await engine()
    const source = Picture.i420(e, 32, 18)
    source.bytes().set(bytes(source.bytes().length))
    const drawn = new Compositor(e).compose(plan(32, 18, [layer(32, 18, [1, 0, 0, 1, 0, 0])]), [source]).pixels()
    expect(largestDifference(drawn, source.pixels())).toBe(0)
  })

  it('keeps a flat colour flat at any size, without a seam at the edges', async () => {
    const e = await engine()
    const compositor = new Compositor(e)
    const source = Picture.rgba(e, 40, 30)
    for (let i = 0; i < 1200; i++) source.bytes().set([90, 150, 210, 255], i * 4)
    for (const [w, h] of [
      [17, 13],
      [40, 30],
      [133, 90],
      [2, 2],
    ] as const) {
      const matrix: Matrix = [w / 40, 0, 0, h / 30, 0, 0]
      const drawn = compositor.compose(plan(w, h, [layer(40, 30, matrix)]), [source]).pixels()
      for (let i = 0; i < drawn.length; i += 4) expect([...drawn.slice(i, i + 4)]).toEqual([90, 150, 210, 255])
    }
  })

  it('stands a proxy in for its source', async () => {
    const e = await engine()
    const proxy = Picture.rgba(e, 20, 10)
    proxy.bytes().set(bytes(800, 3))
    for (let i = 3; i < 800; i += 4) proxy.bytes()[i] = 255
    const drawn = new Compositor(e).compose(plan(20, 10, [layer(200, 100, [0.1, 0, 0, 0.1, 0, 0])]), [proxy]).pixels()
    expect(largestDifference(drawn, proxy.pixels())).toBe(0)
  })

  it('shows the background where nothing is', async () => {
    const e = await engine()
    const drawn = new Compositor(e).compose(plan(6, 4, [layer(2, 2, [1, 0, 0, 1, 100, 0])], '#ff8000'), [
      Picture.rgba(e, 2, 2),
    ])
    expect([...drawn.pixels().slice(0, 4)]).toEqual([255, 128, 0, 255])
  })
})

describe('turned layers', () => {
  it('puts pixels where the matrix says, with soft edges', async () => {
    const e = await engine()
    const compositor = new Compositor(e)
    const [sw, sh, w, h] = [30, 20, 50, 50]
    const source = Picture.rgba(e, sw, sh)
    // A smooth picture: bilinear sampling of it is exact to rounding.
    const at = (x: number, y: number) => [4 * x + 40, 5 * y + 60, 3 * x + 2 * y + 20]
    for (let y = 0; y < sh; y++) for (let x = 0; x < sw; x++) source.bytes().set([...at(x, y), 255], (y * sw + x) * 4)
    const matrix = multiply(translation(25, 25), multiply(rotation(30), translation(-15, -10)))
    const drawn = compositor
      .compose(plan(w, h, [layer(sw, sh, matrix)]), [source])
      .pixels()
      .slice()
    const back = invert(matrix)!
    let inside = 0
    for (let y = 0; y < h; y++)
      for (let x = 0; x < w; x++) {
        const u = back[0] * (x + 0.5) + back[2] * (y + 0.5) + back[4]
        const v = back[1] * (x + 0.5) + back[3] * (y + 0.5) + back[5]
        const pixel = [...drawn.slice((y * w + x) * 4, (y * w + x) * 4 + 3)]
        if (u > 1 && u < sw - 1 && v > 1 && v < sh - 1) {
          inside++
          expect(largestDifference(pixel, at(u - 0.5, v - 0.5))).toBeLessThanOrEqual(1)
        } else if (u < -1 || u > sw + 1 || v < -1 || v > sh + 1) expect(pixel).toEqual([0x20, 0x40, 0x60])
      }
    expect(inside).toBeGreaterThan(400)
  })

  it('averages when it shrinks, so that fine patterns turn grey and do not shimmer', async () => {
    const e = await engine()
    const source = Picture.rgba(e, 256, 256)
    for (let i = 0; i < 65_536; i++)
      source.bytes().set((i + (i >> 8)) % 2 ? [255, 255, 255, 255] : [0, 0, 0, 255], i * 4)
    const matrix = multiply(
      translation(16, 16),
      multiply(rotation(20), multiply(scaling(0.1, 0.1), translation(-128, -128))),
    )
    const drawn = new Compositor(e).compose(plan(32, 32, [layer(256, 256, matrix)]), [source]).pixels()
    for (let y = 12; y < 20; y++)
      for (let x = 12; x < 20; x++) expect(Math.abs(drawn[(y * 32 + x) * 4]! - 128)).toBeLessThan(4)
  })

  it('never show what lies beside a picture in memory, however thin, small or slanted it becomes', async () => {
    const e = await engine()
    const compositor = new Compositor(e)
    compositor.compose(plan(40, 40, []), [])
    // Everything that is not the picture is red; the picture is grey, and so must every pixel be.
    const red = e.heap.allocate(1 << 20)
    e.kernels.fill(red, 1 << 18, 0xff0000ff | 0)
    e.heap.release(red)
    const part = fc.double({ min: 0.002, max: 3, noNaN: true })
    fc.assert(
      fc.property(
        part,
        part,
        fc.integer({ min: 1, max: 179 }),
        fc.integer({ min: 1, max: 90 }),
        fc.integer({ min: 1, max: 90 }),
        (sx, sy, degrees, w, h) => {
          const source = Picture.rgba(e, w, h)
          for (let i = 0; i < w * h; i++) source.bytes().set([90, 90, 90, 255], i * 4)
          const matrix = multiply(
            translation(20, 20),
            multiply(rotation(degrees), multiply(scaling(sx, sy), translation(-w / 2, -h / 2))),
          )
          const drawn = compositor.compose(plan(40, 40, [layer(w, h, matrix, 1, true)], '#000000'), [source]).pixels()
          source.release()
          for (let i = 0; i < drawn.length; i += 4)
            if (drawn[i] !== drawn[i + 1] || drawn[i] !== drawn[i + 2]) return false
          return true
        },
      ),
      { numRuns: 600 },
    )
  })

  it('agrees with upright drawing at a quarter turn', async () => {
    const e = await engine()
    const compositor = new Compositor(e)
    const source = Picture.rgba(e, 8, 8)
    const pixels = bytes(256, 9)
    for (let i = 3; i < 256; i += 4) pixels[i] = 255
    source.bytes().set(pixels)
    const turned = multiply(translation(8, 0), rotation(90))
    const drawn = compositor
      .compose(plan(8, 8, [layer(8, 8, turned)]), [source])
      .pixels()
      .slice()
    for (let y = 0; y < 8; y++)
      for (let x = 0; x < 8; x++)
        expect([...drawn.slice((y * 8 + x) * 4, (y * 8 + x) * 4 + 4)]).toEqual([
          ...pixels.slice(((7 - x) * 8 + y) * 4, ((7 - x) * 8 + y) * 4 + 4),
        ])
  })
})

describe('tables', () => {
  it('sum to one everywhere and never reach outside the source', () => {
    for (const [source, scale, offset] of [
      [1920, 0.5, 0],
      [7, 3.3, -2],
      [1, 40, 0],
      [1080, 0.013, 3.4],
      [5, -1.5, 20],
    ] as const) {
      const table = resampleTable(source, scale, offset, 100)!
      for (let i = 0; i < table.to - table.from; i++) {
        const row = table.weights.slice(i * table.taps, (i + 1) * table.taps)
        expect(row.reduce((a, b) => a + b, 0)).toBe(16_384)
        row.forEach((weight, k) => {
          if (weight !== 0) expect(table.starts[i]! + k).toBeLessThan(source)
        })
      }
    }
    expect(resampleTable(10, 1, 200, 100)).toBeNull()
  })
})

describe('heap', () => {
  it('reuses and joins what is given back, and grows when it must', () => {
    const heap = new Heap(new WebAssembly.Memory({ initial: 1, maximum: 64 }))
    const blocks = Array.from({ length: 8 }, () => heap.allocate(20_000))
    blocks.forEach((at, i) => heap.bytes(at, 20_000).fill(i))
    blocks.forEach((at, i) => expect(heap.bytes(at, 20_000).every((value) => value === i)).toBe(true))
    for (const at of [...blocks].reverse()) heap.release(at)
    expect(heap.bytesInUse).toBe(0)
    expect(heap.allocate(150_000)).toBe(blocks[0])
    expect(() => heap.release(12)).toThrow(RangeError)
  })

  it('leaks nothing over many frames', async () => {
    const e = await engine()
    const compositor = new Compositor(e)
    const source = Picture.rgba(e, 40, 30)
    let settled = 0
    for (let i = 0; i < 120; i++) {
      compositor.compose(
        plan(64, 48, [
          layer(40, 30, [1 + i / 100, 0, 0, 1, i, 0]),
          layer(40, 30, multiply(rotation(i + 1), scaling(0.1, 0.1))),
        ]),
        [source, source],
      )
      if (i === 60) settled = e.heap.bytesInUse
    }
    expect(e.heap.bytesInUse).toBeLessThan(settled * 1.2)
  })
})
