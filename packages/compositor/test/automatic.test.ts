import { describe, expect, it } from 'vitest'
import { resolveParams } from '@dusk/timeline'
import { autoLevels, autoWhite, matchTo, pictureEffect, unlike, whiteFrom, type FoundEffect } from '../src/index'
import { bytes } from './helpers'

const [W, H] = [64, 48]

/** A harbour of sorts: a sky, water, grey walls and lamps. */
function shot(): Uint8ClampedArray {
  const noise = bytes(W * H, 3)
  return Uint8ClampedArray.from({ length: W * H * 4 }, (_, i) => {
    const [n, c] = [i >> 2, i & 3]
    const [x, y] = [n % W, Math.floor(n / W)]
    if (c === 3) return 255
    const rough = (noise[n]! - 128) / 12
    if (y < 18) return [90 + y * 3, 110 + y * 3, 170 + y * 2][c]! + rough
    if (x % 16 < 5) return 60 + y * 3 + rough
    return y > 40 && x % 9 === 0 ? [250, 240, 225][c]! : [30, 60, 70][c]! + y + rough
  })
}

/** A picture with effects laid on it. */
function through(pixels: Uint8ClampedArray, effects: readonly FoundEffect[]): Uint8ClampedArray {
  const out = Uint8ClampedArray.from(pixels)
  for (const { kind: id, settings } of effects) {
    const kind = pictureEffect(id)!
    if (!('colour' in kind)) throw new Error(`${id} draws`)
    const change = kind.colour(resolveParams(kind.params, settings, 0), () => null)
    const rgb = new Float64Array(3)
    for (let i = 0; i < out.length; i += 4) {
      for (let c = 0; c < 3; c++) rgb[c] = out[i + c]! / 255
      change(rgb)
      for (let c = 0; c < 3; c++) out[i + c] = rgb[c]! * 255
    }
  }
  return out
}
const meanOf = (pixels: Uint8ClampedArray, wanted: (x: number, y: number) => boolean) => {
  const sums = [0, 0, 0, 0]
  for (let n = 0; n < W * H; n++)
    if (wanted(n % W, Math.floor(n / W))) for (let c = 0; c < 4; c++) sums[c]! += c === 3 ? 1 : pixels[n * 4 + c]!
  return sums.slice(0, 3).map((sum) => sum / sums[3]!)
}
const wall = (x: number, y: number) => y >= 20 && y < 40 && x % 16 < 4

describe('settings that are worked out', () => {
  it('open what is flat and dull, and leave what is well', () => {
    const dull = shot().map((value, i) => (i % 4 === 3 ? 255 : 80 + value * 0.3)) as Uint8ClampedArray
    const { settings } = autoLevels(dull)
    const after = through(dull, [{ kind: 'levels', settings }])
    const lights = (pixels: Uint8ClampedArray) => [...pixels].filter((_, i) => i % 4 === 1).sort((a, b) => a - b)
    const [before, now] = [lights(dull), lights(after)]
    expect(now.at(-1)! - now[0]!).toBeGreaterThan((before.at(-1)! - before[0]!) * 2)
    expect(autoLevels(through(shot(), [autoLevels(shot())])).settings).toMatchObject({ inWhite: expect.any(Number) })
  })

  it('make grey grey again under warm and green light, and from one grey place', () => {
    for (const light of [
      { temperature: 45, tint: -20 },
      { temperature: -40, tint: 25 },
    ]) {
      const cast = through(shot(), [{ kind: 'balance', settings: light }])
      const off = (pixels: Uint8ClampedArray) => {
        const [r, g, b] = meanOf(pixels, wall) as [number, number, number]
        return Math.abs(r - g) + Math.abs(b - g)
      }
      const [r, g, b] = meanOf(cast, wall).map(Math.round) as [number, number, number]
      const hex = `#${((r << 16) | (g << 8) | b).toString(16).padStart(6, '0')}`
      expect(off(through(cast, [whiteFrom(hex)]))).toBeLessThan(off(cast) / 6)
      expect(off(through(cast, [autoWhite(cast)]))).toBeLessThan(off(cast) / 2)
    }
  })

  it('leave the colours of a dusk as they are, where nothing grey says what the light was', () => {
    const noise = bytes(W * H, 9)
    for (const [top, low, water] of [
      [
        [120, 70, 110],
        [252, 150, 66],
        [44, 34, 60],
      ],
      [
        [70, 60, 120],
        [255, 178, 92],
        [70, 50, 52],
      ],
      [
        [200, 120, 90],
        [255, 190, 120],
        [30, 40, 66],
      ],
      // A sky of one colour, which under some light would be grey.
      [
        [226, 180, 142],
        [232, 184, 146],
        [40, 52, 88],
      ],
    ] as const) {
      const dusk = Uint8ClampedArray.from({ length: W * H * 4 }, (_, i) => {
        const [n, c] = [i >> 2, i & 3]
        const y = Math.floor(n / W)
        if (c === 3) return 255
        const rough = (noise[n]! - 128) / 20
        if (y < 26) return top[c]! + ((low[c]! - top[c]!) * y) / 26 + rough
        return water[c]! + (n % 7 === 0 ? (low[c]! - water[c]!) * 0.6 : 0) + rough
      })
      expect(autoWhite(dusk).settings).toEqual({})
    }
  })

  it('bring a shot near to another, with ordinary settings', () => {
    const wanted = shot()
    for (const change of [
      [{ kind: 'tone', settings: { exposure: -0.8, contrast: -25 } }],
      [{ kind: 'balance', settings: { temperature: 40, saturation: -30 } }],
      [
        { kind: 'tone', settings: { exposure: 0.5 } },
        { kind: 'wheels', settings: { shadowsTint: [30, -20] } },
      ],
    ] as FoundEffect[][]) {
      const other = through(wanted, change)
      const found = matchTo(other, wanted)
      expect(found.length).toBeGreaterThan(0)
      expect(unlike(through(other, found), wanted) / unlike(other, wanted)).toBeLessThan(0.45)
    }
    // A shot that is alike already is left alone, all but.
    expect(unlike(through(wanted, matchTo(wanted, wanted)), wanted)).toBeLessThan(0.02)
  })
})
