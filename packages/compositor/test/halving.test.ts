import { describe, expect, it } from 'vitest'
import type { FramePlan, Matrix } from '@dusk/timeline'
import { Compositor, i420Length, Picture } from '../src/index'
import { bytes, engine, largestDifference } from './helpers'

/** A picture laid down by a matrix over black. */
async function drawn(pixels: Uint8Array, width: number, height: number, matrix: Matrix, out: [number, number]) {
  const e = await engine()
  const picture = Picture.rgba(e, width, height)
  picture.bytes().set(pixels)
  const [w, h] = out
  const layer = { kind: 'picture' as const, assetId: 'a', time: 0, width, height, alpha: false, opacity: 1, matrix }
  const plan: FramePlan = { width: w, height: h, background: '#000000', layers: [layer], passThrough: false }
  const result = new Compositor(e).compose(plan, [picture]).pixels().slice()
  picture.release()
  return result
}
const opaque = (n: number, value: (i: number, channel: number) => number) =>
  Uint8Array.from({ length: n * 4 }, (_, i) => (i % 4 === 3 ? 255 : value(i >> 2, i % 4)))

describe('pictures at half their size and less', () => {
  it('are the mean of four pixels, whatever their width', async () => {
    for (const width of [8, 12, 22, 64]) {
      const height = 6
      const noise = bytes(width * height * 4, width)
      const pixels = opaque(width * height, (i, c) => noise[i * 4 + c]!)
      const half = await drawn(pixels, width, height, [0.5, 0, 0, 0.5, 0, 0], [width / 2, height / 2])
      for (let y = 0; y < height / 2; y++)
        for (let x = 0; x < width / 2; x++)
          for (let c = 0; c < 3; c++) {
            const at = (dx: number, dy: number) => pixels[((y * 2 + dy) * width + x * 2 + dx) * 4 + c]!
            const mean = (at(0, 0) + at(1, 0) + at(0, 1) + at(1, 1) + 2) >> 2
            expect(half[(y * (width / 2) + x) * 4 + c], `${width}: ${x}, ${y}`).toBe(mean)
          }
    }
  })

  it('keep their place: a gradient comes out as at any other size, moved and at odd scales too', async () => {
    const [width, height] = [160, 96]
    const ramp = opaque(width * height, (i) => Math.round(((i % width) / (width - 1)) * 255))
    for (const scale of [0.5, 0.4, 0.25, 0.2]) {
      const [w, h] = [90, 60]
      const out = await drawn(ramp, width, height, [scale, 0, 0, scale, 4.5, 3], [w, h])
      for (let x = 8; x < 4 + width * scale - 4; x++) {
        const expected = (((x + 0.5 - 4.5) / scale - 0.5) / (width - 1)) * 255
        expect(Math.abs(out[(10 * w + x) * 4]! - expected), `${scale} at ${x}`).toBeLessThan(2)
      }
      // Nothing is drawn beside it.
      expect(out[(10 * w + 2) * 4]).toBe(0)
    }
  })

  it('are worked out from all their pixels where a side is odd', async () => {
    const white = opaque(33 * 21, () => 255)
    const out = await drawn(white, 33, 21, [0.5, 0, 0, 0.5, 0, 0], [16, 10])
    expect(out.every((value) => value === 255)).toBe(true)
  })

  it('are made from a decoder’s planes as from its pixels, a quarter of the work', async () => {
    const e = await engine()
    for (const [width, height] of [
      [64, 36],
      [54, 30],
      [6, 2],
    ] as const)
      for (const range of ['limited', 'full'] as const) {
        const picture = Picture.i420(e, width, height, 'bt709', range)
        // Noise in luma; chroma that goes slowly, as it does in pictures, for it is brought up and down by other rows.
        const [noise, cw] = [bytes(i420Length(width, height), width), width / 2]
        const slow = (i: number) => 110 + (((i - width * height) % cw) >> 1) + ((((i - width * height) / cw) | 0) % 9)
        picture.bytes().set(noise.map((value, i) => (i < width * height ? 60 + (value >> 1) : slow(i))))
        const address = picture.half()!
        const half = e.heap.bytes(address, (width / 2) * (height / 2) * 4).slice()
        const pixels = picture.pixels()
        let most = 0
        for (let y = 0; y < height / 2; y++)
          for (let x = 0; x < width / 2; x++)
            for (let c = 0; c < 4; c++) {
              const at = (dx: number, dy: number) => pixels[((y * 2 + dy) * width + x * 2 + dx) * 4 + c]!
              const mean = (at(0, 0) + at(1, 0) + at(0, 1) + at(1, 1)) / 4
              // The last column has no chroma to its right.
              if (x < width / 2 - 1) most = Math.max(most, Math.abs(half[(y * (width / 2) + x) * 4 + c]! - mean))
            }
        expect(most, `${width} ${range}`).toBeLessThanOrEqual(4)
        // The same whatever was drawn of it before.
        picture.changed()
        picture.pixels()
        expect(e.heap.bytes(picture.half()!, half.length)).toEqual(half)
        picture.release()
      }
    const odd = Picture.i420(e, 33, 20)
    expect(odd.half()).toBeNull()
    odd.release()
    const drawn = Picture.rgba(e, 32, 20)
    expect(drawn.half()).toBeNull()
    drawn.release()
  })

  it('of one colour are that colour', async () => {
    const e = await engine()
    const picture = Picture.i420(e, 40, 20)
    picture.bytes().fill(126, 0, 800).fill(90, 800, 1000).fill(170, 1000)
    const half = e.heap.bytes(picture.half()!, 20 * 10 * 4)
    const [first] = [picture.pixels().slice(0, 4)]
    for (let i = 0; i < half.length; i += 4) expect([...half.subarray(i, i + 4)]).toEqual([...first!])
    picture.release()
  })

  it('are handed on as planes, untouched by colours, and come out as if they had been drawn', async () => {
    const e = await engine()
    const compositor = new Compositor(e)
    // Rows that end within a step of the kernel, at it and after it.
    for (const [width, height] of [
      [4, 4],
      [32, 8],
      [36, 12],
      [68, 20],
      [160, 64],
    ] as const) {
      const picture = Picture.i420(e, width, height)
      const [size, cw] = [width * height, width / 2]
      const noise = bytes(i420Length(width, height), width)
      // Colours that all exist: what is drawn holds others within what a screen shows.
      picture.bytes().set(noise.map((value, i) => (i < size ? 80 + (value >> 1) : 118 + (value >> 4))))
      const planes = picture.bytes().slice()
      const half = compositor.film.half(picture)!.slice()
      const [w, h] = [width / 2, height / 2]
      for (let y = 0; y < h; y++)
        for (let x = 0; x < w; x++) {
          const at = (dx: number, dy: number) => planes[(y * 2 + dy) * width + x * 2 + dx]!
          expect(half[y * w + x]).toBe((at(0, 0) + at(1, 0) + at(0, 1) + at(1, 1) + 2) >> 2)
        }
      for (const plane of [0, 1])
        for (let y = 0; y < h / 2; y++)
          for (let x = 0; x < w / 2; x++) {
            const at = (column: number, row: number) =>
              planes[size + (plane * size) / 4 + (y * 2 + row) * cw + Math.min(column, cw - 1)]!
            const both = (column: number) => at(column, 0) + at(column, 1)
            // Brought up to the half's pixels, three parts of one and one of the next; taken down again by 1 2 1.
            const pixel = (column: number) => (3 * both(column) + both(column + 1)) / 8
            const taken = (pixel(Math.max(2 * x - 1, 0)) + 2 * pixel(2 * x) + pixel(2 * x + 1)) / 4
            const found = half[w * h + (plane * w * h) / 4 + (y * w) / 2 + x]!
            expect(Math.abs(found - taken), `${width}: ${x}, ${y}`).toBeLessThanOrEqual(0.5)
          }
      const layer = { kind: 'picture' as const, assetId: 'a', time: 0, width, height, alpha: false, opacity: 1 }
      const plan: FramePlan = {
        ...{ width: w, height: h, background: '#000000', passThrough: false },
        layers: [{ ...layer, matrix: [0.5, 0, 0, 0.5, 0, 0] }],
      }
      const drawn = compositor.toI420(compositor.compose(plan, [picture]))
      expect(largestDifference(half, drawn), `${width}`).toBeLessThanOrEqual(2)
      picture.release()
    }
    const full = Picture.i420(e, 32, 8, 'bt709', 'full')
    const odd = Picture.i420(e, 34, 8)
    const pixels = Picture.rgba(e, 32, 8)
    for (const other of [full, odd, pixels]) {
      expect(compositor.film.half(other)).toBeNull()
      other.release()
    }
    compositor.release()
  })
})
