import { describe, expect, it } from 'vitest'
import { Compositor, i420Length, Picture, type ColourMatrix, type ColourRange } from '../src/index'
import { bytes, engine, largestDifference } from './helpers'

const LUMA = { bt601: [0.299, 0.114], bt709: [0.2126, 0.0722] } as const

/**
 * Y′CbCr to R′G′B′ written down from the standards, in floating point, chroma brought up by the weights of its
 * siting.
 */
function slowRgb(planes: Uint8Array, w: number, h: number, matrix: ColourMatrix, range: ColourRange): Float64Array {
  const [kr, kb] = LUMA[matrix]
  const kg = 1 - kr - kb
  const [cw, ch] = [(w + 1) >> 1, (h + 1) >> 1]
  const chroma = (at: number, x: number, y: number) => {
    const row = (r: number, i: number) => planes[at + r * cw + Math.min(i, cw - 1)]!
    const near = y >> 1
    const far = Math.min(Math.max(y % 2 ? near + 1 : near - 1, 0), ch - 1)
    const column = (i: number) => 0.75 * row(near, i) + 0.25 * row(far, i)
    return x % 2 ? (column(x >> 1) + column((x >> 1) + 1)) / 2 : column(x >> 1)
  }
  const out = new Float64Array(w * h * 4)
  for (let y = 0; y < h; y++)
    for (let x = 0; x < w; x++) {
      let l = planes[y * w + x]!
      let cb = chroma(w * h, x, y) - 128
      let cr = chroma(w * h + cw * ch, x, y) - 128
      if (range === 'limited') {
        l = ((l - 16) * 255) / 219
        cb = (cb * 255) / 224
        cr = (cr * 255) / 224
      }
      const r = l + 2 * (1 - kr) * cr
      const b = l + 2 * (1 - kb) * cb
      const g = (l - kr * r - kb * b) / kg
      out.set(
        [r, g, b, 255].map((value) => Math.min(Math.max(value, 0), 255)),
        (y * w + x) * 4,
      )
    }
  return out
}

describe('planes to pixels', () => {
  for (const matrix of ['bt601', 'bt709'] as const)
    for (const range of ['limited', 'full'] as const)
      for (const [w, h] of [
        [64, 36],
        [53, 31],
        [2, 2],
        [1, 1],
      ] as const)
        it(`follows the ${matrix} equations, ${range} range, ${w} × ${h}`, async () => {
          const e = await engine()
          const picture = Picture.i420(e, w, h, matrix, range)
          const planes = bytes(i420Length(w, h), w)
          picture.bytes().set(planes)
          // Chroma is rounded twice on its way up, and its coefficients are up to 2.2.
          expect(largestDifference(picture.pixels(), slowRgb(planes, w, h, matrix, range))).toBeLessThanOrEqual(2.7)
        })

  it('makes exact white, black and grey', async () => {
    const e = await engine()
    const picture = Picture.i420(e, 16, 2)
    for (const [luma, grey] of [
      [16, 0],
      [235, 255],
      [126, 128],
      [255, 255],
      [0, 0],
    ] as const) {
      picture.bytes().fill(luma, 0, 32)
      picture.bytes().fill(128, 32)
      picture.changed()
      expect([...picture.pixels().slice(0, 4)]).toEqual([grey, grey, grey, 255])
    }
  })
})

describe('pixels to planes', () => {
  it('follows the BT.709 equations within one step', async () => {
    const e = await engine()
    const compositor = new Compositor(e)
    const [w, h] = [38, 12]
    const picture = Picture.rgba(e, w, h)
    const pixels = bytes(w * h * 4, 7)
    for (let i = 3; i < pixels.length; i += 4) pixels[i] = 255
    picture.bytes().set(pixels)
    const planes = compositor.toI420(picture)
    const [kr, kb] = LUMA.bt709
    const expected = new Float64Array(planes.length)
    const rgb = (x: number, y: number) => {
      const at = (y * w + Math.min(Math.max(x, 0), w - 1)) * 4
      return [pixels[at]!, pixels[at + 1]!, pixels[at + 2]!] as const
    }
    for (let y = 0; y < h; y++)
      for (let x = 0; x < w; x++) {
        const [r, g, b] = rgb(x, y)
        expected[y * w + x] = 16 + (219 / 255) * (kr * r + (1 - kr - kb) * g + kb * b)
      }
    for (let y = 0; y < h / 2; y++)
      for (let x = 0; x < w / 2; x++) {
        const sum = [0, 0, 0]
        for (const [dx, weight] of [
          [-1, 1],
          [0, 2],
          [1, 1],
        ] as const)
          for (const dy of [0, 1]) rgb(2 * x + dx, 2 * y + dy).forEach((value, k) => (sum[k]! += (value * weight) / 8))
        const [r, g, b] = sum as [number, number, number]
        const l = kr * r + (1 - kr - kb) * g + kb * b
        expected[w * h + y * (w / 2) + x] = 128 + ((224 / 255) * (b - l)) / (2 * (1 - kb))
        expected[(w * h * 5) / 4 + y * (w / 2) + x] = 128 + ((224 / 255) * (r - l)) / (2 * (1 - kr))
      }
    expect(largestDifference(planes, expected)).toBeLessThanOrEqual(1)
  })

  it('gives back smooth planes nearly as they were', async () => {
    const e = await engine()
    const compositor = new Compositor(e)
    const [w, h] = [64, 32]
    const source = Picture.i420(e, w, h)
    const planes = source.bytes()
    for (let y = 0; y < h; y++) for (let x = 0; x < w; x++) planes[y * w + x] = 60 + x + y
    for (let y = 0; y < h / 2; y++)
      for (let x = 0; x < w / 2; x++) {
        planes[w * h + y * (w / 2) + x] = 110 + (x >> 1)
        planes[(w * h * 5) / 4 + y * (w / 2) + x] = 140 - y
      }
    const before = planes.slice()
    expect(largestDifference(compositor.toI420(source), before)).toBeLessThanOrEqual(1)
  })

  it('refuses odd sizes in words', async () => {
    const e = await engine()
    expect(() => new Compositor(e).toI420(Picture.rgba(e, 3, 2))).toThrow('even sizes')
  })
})
