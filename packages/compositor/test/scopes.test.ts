import { describe, expect, it } from 'vitest'
import { drawZebra, SCOPE_SIZE, scopesOf } from '../src/index'

const { columns, levels, vector: side } = SCOPE_SIZE
/** A picture of some size, each pixel by its place. */
const picture = (width: number, height: number, at: (x: number, y: number) => [number, number, number]) =>
  Uint8ClampedArray.from({ length: width * height * 4 }, (_, i) =>
    i % 4 === 3 ? 255 : at((i >> 2) % width, Math.floor((i >> 2) / width))[i % 4]!,
  )
const peak = (counts: ArrayLike<number>) => {
  let best = 0
  for (let i = 1; i < counts.length; i++) if (counts[i]! > counts[best]!) best = i
  return best
}

describe('scopes', () => {
  it('show where brightness lies, across the picture and on the whole', () => {
    const ramp = scopesOf(
      picture(256, 64, (x) => [x, x, x]),
      256,
      64,
    )
    for (const column of [0, 32, 100, 127])
      expect(Math.abs(peak(ramp.waveform.slice(column * levels, (column + 1) * levels)) - column)).toBeLessThanOrEqual(
        1,
      )
    expect(Math.max(...ramp.histogram.slice(0, 256)) - Math.min(...ramp.histogram.slice(1, 254))).toBeLessThan(140)
    expect([ramp.dark, ramp.bright].map((part) => Math.round(part * 256))).toEqual([1, 1])
  })

  it('show each channel, and colours as a direction: red up and to the left, blue to the right', () => {
    const red = scopesOf(
      picture(64, 64, () => [200, 20, 20]),
      64,
      64,
    )
    const plane = columns * levels
    expect(peak(red.histogram.slice(256, 512))).toBe(200)
    expect(peak(red.waveform.slice(plane, plane + levels))).toBe(100)
    const at = (scopes: typeof red) => [peak(scopes.vector) % side, Math.floor(peak(scopes.vector) / side)]
    const [x, y] = at(red)
    expect(x!).toBeLessThan(side / 2)
    expect(y!).toBeLessThan(side / 4)
    const [bx, by] = at(
      scopesOf(
        picture(64, 64, () => [10, 10, 220]),
        64,
        64,
      ),
    )
    expect(bx!).toBeGreaterThan(side * 0.7)
    expect(by!).toBeGreaterThan(side / 2 - 2)
    expect(
      at(
        scopesOf(
          picture(64, 64, () => [90, 90, 90]),
          64,
          64,
        ),
      ),
    ).toEqual([side / 2, side / 2 - 1])
  })

  it('look at part of large pictures, and find the same', () => {
    const large = scopesOf(
      picture(1200, 800, (x) => [x < 600 ? 0 : 255, 128, 128]),
      1200,
      800,
    )
    expect(large.dark).toBeCloseTo(0.5, 1)
    expect(large.bright).toBeCloseTo(0.5, 1)
  })
})

describe('the zebra', () => {
  it('lies over what has nothing left, and over nothing else', () => {
    const pixels = picture(60, 20, (x) => (x < 20 ? [255, 255, 255] : x < 40 ? [128, 128, 128] : [0, 0, 0]))
    drawZebra(pixels, 60, 20)
    const colours = (from: number) => new Set(Array.from({ length: 20 }, (_, i) => pixels[(from + i) * 4]))
    expect(colours(0)).toEqual(new Set([255, 236]))
    expect(colours(20)).toEqual(new Set([128]))
    expect(colours(40)).toEqual(new Set([0, 142]))
  })
})
