import { describe, expect, it } from 'vitest'
import {
  BLEND_MODES,
  type BlendMode,
  type FrameStylePlan,
  type FramePlan,
  type LayerPlan,
  type Matrix,
} from '@dusk/timeline'
import { blurPicture, boxRadii, Compositor, Picture } from '../src/index'
import { bytes, engine, largestDifference } from './helpers'

/** Premultiplied pixels with all degrees of transparency. */
function glassy(n: number, seed: number): Uint8Array {
  const p = bytes(n * 4, seed)
  for (let i = 0; i < p.length; i += 4) for (let k = 0; k < 3; k++) p[i + k] = Math.floor((p[i + k]! * p[i + 3]!) / 255)
  return p
}

type Rgb = [number, number, number]
const lum = ([r, g, b]: Rgb) => 0.3 * r + 0.59 * g + 0.11 * b
const sat = (c: Rgb) => Math.max(...c) - Math.min(...c)
function setLum(c: Rgb, l: number): Rgb {
  const d = l - lum(c)
  const moved = c.map((v) => v + d) as Rgb
  const [y, n, x] = [lum(moved), Math.min(...moved), Math.max(...moved)]
  if (n < 0) return moved.map((v) => y + ((v - y) * y) / (y - n)) as Rgb
  if (x > 1) return moved.map((v) => y + ((v - y) * (1 - y)) / (x - y)) as Rgb
  return moved
}
const setSat = (c: Rgb, s: number): Rgb => {
  const n = Math.min(...c)
  const range = Math.max(...c) - n
  return c.map((v) => (range > 0 ? ((v - n) * s) / range : 0)) as Rgb
}

const hardLight = (b: number, s: number) => (s <= 0.5 ? b * 2 * s : b + (2 * s - 1) - b * (2 * s - 1))
/** B(Cb, Cs) as the specification writes it, channel by channel. */
const CHANNEL: Partial<Record<BlendMode, (b: number, s: number) => number>> = {
  normal: (_b, s) => s,
  multiply: (b, s) => b * s,
  screen: (b, s) => b + s - b * s,
  overlay: (b, s) => hardLight(s, b),
  darken: Math.min,
  lighten: Math.max,
  'color-dodge': (b, s) => (b === 0 ? 0 : s === 1 ? 1 : Math.min(1, b / (1 - s))),
  'color-burn': (b, s) => (b === 1 ? 1 : s === 0 ? 0 : 1 - Math.min(1, (1 - b) / s)),
  'hard-light': hardLight,
  'soft-light': (b, s) => {
    if (s <= 0.5) return b - (1 - 2 * s) * b * (1 - b)
    return b + (2 * s - 1) * ((b <= 0.25 ? ((16 * b - 12) * b + 4) * b : Math.sqrt(b)) - b)
  },
  difference: (b, s) => Math.abs(b - s),
  exclusion: (b, s) => b + s - 2 * b * s,
}
const WHOLE: Partial<Record<BlendMode, (b: Rgb, s: Rgb) => Rgb>> = {
  hue: (b, s) => setLum(setSat(s, sat(b)), lum(b)),
  saturation: (b, s) => setLum(setSat(b, sat(s)), lum(b)),
  color: (b, s) => setLum(s, lum(b)),
  luminosity: (b, s) => setLum(b, lum(s)),
}

function slowBlend(mode: BlendMode, src: Uint8Array, dst: Uint8Array): Float64Array {
  const out = new Float64Array(dst.length)
  for (let i = 0; i < dst.length; i += 4) {
    const [as, ab] = [src[i + 3]! / 255, dst[i + 3]! / 255]
    if (mode === 'plus-lighter') {
      for (let k = 0; k < 4; k++) out[i + k] = Math.min(255, src[i + k]! + dst[i + k]!)
      continue
    }
    const colour = (p: Uint8Array, a: number): Rgb => [0, 1, 2].map((k) => (a > 0 ? p[i + k]! / 255 / a : 0)) as Rgb
    const [cs, cb] = [colour(src, as), colour(dst, ab)]
    const mixed = WHOLE[mode] ? WHOLE[mode](cb, cs) : (cb.map((b, k) => CHANNEL[mode]!(b, cs[k]!)) as Rgb)
    for (let k = 0; k < 3; k++)
      out[i + k] = 255 * (as * (1 - ab) * cs[k]! + as * ab * mixed[k]! + (1 - as) * ab * cb[k]!)
    out[i + 3] = 255 * (as + ab - as * ab)
  }
  return out
}

describe('blend modes', async () => {
  const e = await engine()
  const [src, dst] = [glassy(4096, 3), glassy(4096, 4)]
  it.each(BLEND_MODES.filter((mode) => mode !== 'normal'))('%s follows the equations of the specification', (mode) => {
    const [s, d] = [Picture.rgba(e, 64, 64), Picture.rgba(e, 64, 64)]
    s.bytes().set(src)
    d.bytes().set(dst)
    e.kernels.blendPixels(s.address(), d.address(), 4096, BLEND_MODES.indexOf(mode))
    expect(largestDifference(d.pixels(), slowBlend(mode, src, dst))).toBeLessThanOrEqual(1)
    s.release()
    d.release()
  })
})

describe('layers', async () => {
  const e = await engine()
  const compositor = new Compositor(e)
  const white = Picture.rgba(e, 40, 30)
  white.bytes().fill(255)
  const EDGE: FrameStylePlan = {
    crop: { left: 0, right: 0, top: 0, bottom: 0 },
    feather: 0,
    cornerRadius: 0,
    border: 0,
    borderColour: '#ff0000',
    shadow: null,
    reflection: null,
  }
  const draw = (rest: object, matrix: Matrix = [1, 0, 0, 1, 20, 10], pictures = [white], more: LayerPlan[] = []) => {
    const layer = {
      kind: 'picture',
      assetId: 'a',
      time: 0,
      width: 40,
      height: 30,
      matrix,
      opacity: 1,
      alpha: false,
      ...rest,
    } as LayerPlan
    const plan: FramePlan = {
      width: 80,
      height: 60,
      background: '#000000',
      layers: [layer, ...more],
      passThrough: false,
    }
    const pixels = compositor.compose(plan, pictures).pixels().slice()
    return (x: number, y: number) => [...pixels.slice((y * 80 + x) * 4, (y * 80 + x) * 4 + 3)]
  }

  it('are cut where the crop says, to a fraction of a pixel', () => {
    const at = draw({ frameStyle: { ...EDGE, crop: { left: 0.25, right: 0, top: 0, bottom: 0.5 } } })
    expect([at(29, 15), at(30, 15), at(59, 15), at(60, 15)]).toEqual([
      [0, 0, 0],
      [255, 255, 255],
      [255, 255, 255],
      [0, 0, 0],
    ])
    expect([at(40, 24), at(40, 25)]).toEqual([
      [255, 255, 255],
      [0, 0, 0],
    ])
    const fine = draw({ frameStyle: { ...EDGE, crop: { left: 0.2625, right: 0, top: 0, bottom: 0 } } })
    expect(fine(30, 20)[0]).toBeGreaterThan(110)
    expect(fine(30, 20)[0]).toBeLessThan(145)
  })

  it('draw nothing when the crop leaves nothing', () => {
    const at = draw({ frameStyle: { ...EDGE, crop: { left: 0.5, right: 0.5, top: 0, bottom: 0 } } })
    expect(at(40, 25)).toEqual([0, 0, 0])
  })

  it('have round cornerRadius, a border around them, and fade at feathered edges', () => {
    const round = draw({ frameStyle: { ...EDGE, cornerRadius: 10 } })
    expect([round(20, 10), round(40, 10), round(23, 13)[0]! > 200]).toEqual([[0, 0, 0], [255, 255, 255], true])
    const border = draw({ frameStyle: { ...EDGE, border: 3 } })
    expect([border(18, 25), border(16, 25), border(20, 25)]).toEqual([
      [255, 0, 0],
      [0, 0, 0],
      [255, 255, 255],
    ])
    const soft = draw({ frameStyle: { ...EDGE, feather: 10 } })
    const ramp = [20, 23, 26, 29].map((x) => soft(x, 25)[0]!)
    expect(ramp).toEqual([...ramp].sort((a, b) => a - b))
    expect([ramp[0]! < 30, soft(35, 25)[0]]).toEqual([true, 255])
  })

  it('cast a shadow to where it falls, in its colour, and a mirror image below', () => {
    const shadow = { strength: 1, x: 8, y: 6, blur: 0, colour: '#00ff00' }
    const at = draw({ frameStyle: { ...EDGE, shadow } })
    expect([at(64, 43), at(40, 25), at(70, 50)]).toEqual([
      [0, 255, 0],
      [255, 255, 255],
      [0, 0, 0],
    ])
    const mirror = draw({ frameStyle: { ...EDGE, reflection: { strength: 0.5, length: 0.5, gap: 2 } } })
    expect(mirror(40, 41)).toEqual([0, 0, 0])
    expect(mirror(40, 42)[0]).toBeGreaterThan(90)
    expect(mirror(40, 50)[0]!).toBeLessThan(mirror(40, 44)[0]!)
    expect(mirror(40, 59)).toEqual([0, 0, 0])
  })

  it('turn together with their border', () => {
    // A quarter turn about the middle of an 80 × 60 frame: 40 × 30 becomes 30 × 40.
    const at = draw({ frameStyle: { ...EDGE, border: 3 } }, [0, 1, -1, 0, 55, 10])
    expect([at(40, 30), at(23, 30), at(19, 30)]).toEqual([
      [255, 255, 255],
      [255, 0, 0],
      [0, 0, 0],
    ])
  })

  it('motionBlur over the places they pass while the shutterAngle is open', () => {
    const motionBlur: Matrix[] = [0, 10, 20, 30].map((x) => [1, 0, 0, 1, x, 10])
    const at = draw({ motionBlur })
    expect([5, 15, 25, 35, 65].map((x) => at(x, 20)[0])).toEqual([64, 128, 191, 255, 64])
  })

  it('take everything beneath as one picture when they are adjustments', () => {
    const beneath = {
      kind: 'backdrop',
      width: 80,
      height: 60,
      alpha: true,
      opacity: 1,
      matrix: [0.5, 0, 0, 0.5, 20, 15],
    } as LayerPlan
    const at = draw({}, [2, 0, 0, 2, 0, 0], [white], [beneath])
    expect([at(10, 10), at(40, 30), at(65, 30)]).toEqual([
      [0, 0, 0],
      [255, 255, 255],
      [0, 0, 0],
    ])
  })

  it('fill what a fitted picture leaves empty', () => {
    const colour = draw({ backgroundFill: { kind: 'colour', colour: '#2a2335' } })
    expect([colour(5, 5), colour(40, 25)]).toEqual([
      [0x2a, 0x23, 0x35],
      [255, 255, 255],
    ])
    const blur = draw({ backgroundFill: { kind: 'blur', matrix: [2, 0, 0, 2, 0, 0] } })
    expect(blur(5, 5)[0]).toBeGreaterThan(150)
    expect(blur(5, 5)[0]).toBeLessThan(220)
  })
})

describe('sized pictures', async () => {
  const e = await engine()
  const [w, h] = [64, 48]
  const plan = (matrix: Matrix): FramePlan => ({
    width: 40,
    height: 30,
    background: '#102030',
    passThrough: false,
    layers: [{ kind: 'picture', assetId: '', time: 0, width: w, height: h, matrix, opacity: 1, alpha: false }],
  })
  const halved: Matrix = [0.5, 0, 0, 0.5, 3.25, 2.5]
  const draw = (on: Compositor, picture: Picture, matrix: Matrix) =>
    on.compose(plan(matrix), [picture]).pixels().slice()

  it('are the same frame after frame, also from what is kept, and follow every change', () => {
    const kept = new Compositor(e)
    const picture = Picture.i420(e, w, h)
    picture.bytes().set(bytes(picture.bytes().length, 5))
    const first = draw(kept, picture, halved)
    expect(draw(kept, picture, halved)).toEqual(first)
    // Other places and sizes in between, more than are kept.
    for (let i = 1; i < 8; i++) {
      const matrix: Matrix = [0.5 + i / 100, 0, 0, 0.5, i, 0]
      expect(draw(kept, picture, matrix)).toEqual(draw(new Compositor(e), picture, matrix))
    }
    expect(draw(kept, picture, halved)).toEqual(first)
    picture.bytes().set(bytes(picture.bytes().length, 6))
    picture.changed()
    const next = draw(kept, picture, halved)
    expect(next).not.toEqual(first)
    expect(next).toEqual(draw(new Compositor(e), picture, halved))
  })

  it('of pictures that are drawn on are worked out each time', () => {
    const kept = new Compositor(e)
    const sheet = Picture.rgba(e, w, h)
    expect(sheet.stamp).toBeNull()
    sheet.bytes().fill(255)
    const white = draw(kept, sheet, halved)
    sheet.bytes().fill(0)
    expect(draw(kept, sheet, halved)).not.toEqual(white)
  })

  it('give all their memory back', () => {
    const before = e.heap.bytesInUse
    const kept = new Compositor(e)
    const picture = Picture.i420(e, w, h)
    for (let i = 0; i < 9; i++) draw(kept, picture, [0.5, 0, 0, 0.5, i / 3, 0])
    kept.release()
    picture.release()
    expect(e.heap.bytesInUse).toBe(before)
  })
})

describe('blur', async () => {
  const e = await engine()
  it('spreads a point by the standard deviation asked for and loses no light', () => {
    const [w, h] = [81, 61]
    const picture = Picture.rgba(e, w, h)
    picture.bytes().fill(0)
    for (let y = 25; y < 36; y++)
      for (let x = 35; x < 46; x++) picture.bytes().fill(255, (y * w + x) * 4, (y * w + x) * 4 + 4)
    const before = 11 * 11 * 255
    blurPicture(e, picture, 4, 0)
    const pixels = picture.pixels()
    let [sum, mean, square] = [0, 0, 0]
    for (let y = 0; y < h; y++)
      for (let x = 0; x < w; x++) {
        const value = pixels[(y * w + x) * 4]!
        sum += value
        mean += value * x
        square += value * x * x
      }
    mean /= sum
    // The box itself has a variance of (11² − 1) / 12.
    expect(Math.abs(sum / before - 1)).toBeLessThan(0.02)
    expect(mean).toBeCloseTo(40, 1)
    expect(Math.sqrt(square / sum - mean * mean - 10)).toBeCloseTo(4, 0)
    picture.release()
  })

  it('takes three boxes whose variances add up to what was asked for', () => {
    for (const sigma of [1, 2.5, 6, 20]) {
      const variance = boxRadii(sigma).reduce((sum, r) => sum + ((2 * r + 1) ** 2 - 1) / 12, 0)
      expect(Math.abs(Math.sqrt(variance) - sigma)).toBeLessThan(0.35)
    }
  })
})
