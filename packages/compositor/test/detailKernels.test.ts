import { describe, expect, it } from 'vitest'
import { LayerPainter } from '../src/layers/layerPainter'
import { blurFine, blurWide, sharpenPicture } from '../src/layers/blur'
import { Picture } from '../src/index'
import { bytes, engine as freshEngine, largestDifference } from './helpers'

const engine = await freshEngine()
const { heap, kernels } = engine

/** Odd sizes, so that the last pixels of a row are met alone, by twos, threes and after eights. */
const SIZES = [
  [53, 27],
  [54, 9],
  [71, 30],
  [16, 5],
  [3, 2],
  [1, 1],
] as const

/** Runs on copies of blocks and gives back one of them. */
function on(blocks: readonly Uint8Array[], run: (...at: number[]) => void, read: number): Uint8Array {
  const at = blocks.map((block) => {
    const address = heap.allocate(block.length)
    heap.bytes(address, block.length).set(block)
    return address
  })
  run(...at)
  const found = heap.bytes(at[read]!, blocks[read]!.length).slice()
  at.forEach((address) => heap.release(address))
  return found
}

const clamp = (value: number, low: number, high: number) => Math.min(high, Math.max(low, value))

/** Opaque or premultiplied pixels of a picture. */
function picture(width: number, height: number, opaque: boolean, seed = 3): Picture {
  const made = Picture.rgba(engine, width, height)
  const random = bytes(width * height * 4, seed)
  for (let i = 0; i < width * height; i++) {
    const alpha = opaque || i % 3 === 0 ? 255 : random[i * 4 + 3]!
    for (let c = 0; c < 3; c++) made.bytes()[i * 4 + c] = Math.round((random[i * 4 + c]! * alpha) / 255)
    made.bytes()[i * 4 + 3] = alpha
  }
  return made
}

/** An opaque picture of a colour for each place. */
function painted(width: number, height: number, colour: (x: number, y: number) => readonly number[]): Picture {
  const made = Picture.rgba(engine, width, height)
  for (let i = 0; i < width * height; i++) made.bytes().set([...colour(i % width, Math.floor(i / width)), 255], i * 4)
  return made
}

/** A plane of numbers filtered by a Gaussian each way, in doubles; its edges repeat. */
function gaussian(plane: readonly number[], width: number, height: number, sigma: number): number[] {
  const radius = Math.min(6, Math.max(1, Math.ceil(sigma * 2.5)))
  const taps = Array.from({ length: 2 * radius + 1 }, (_, i) => Math.exp(-((i - radius) ** 2) / (2 * sigma * sigma)))
  const sum = taps.reduce((a, b) => a + b)
  const along = (from: readonly number[], down: boolean) =>
    from.map((_, i) => {
      const [x, y] = [i % width, Math.floor(i / width)]
      return taps.reduce((total, tap, k) => {
        const [u, v] = down ? [x, clamp(y + k - radius, 0, height - 1)] : [clamp(x + k - radius, 0, width - 1), y]
        return total + (from[v * width + u]! * tap) / sum
      }, 0)
    })
  return along(along(plane, false), true)
}

const channelOf = (of: Uint8Array, c: number) => Array.from({ length: of.length / 4 }, (_, i) => of[i * 4 + c]!)

describe('narrow blurs', () => {
  it.each(SIZES)('are Gaussians within one value, %i × %i', (width, height) => {
    for (const sigma of [0.5, 1, 1.6, 2.4]) {
      const made = picture(width, height, false)
      const before = made.bytes().slice()
      blurFine(engine, made, sigma, sigma)
      for (let c = 0; c < 4; c++) {
        const wanted = gaussian(channelOf(before, c), width, height, sigma).map(Math.round)
        expect(largestDifference(channelOf(made.bytes(), c), wanted), `σ ${sigma}, channel ${c}`).toBeLessThanOrEqual(1)
      }
      made.release()
    }
  })

  it('leave an even surface as it is', () => {
    for (const value of [0, 1, 127, 254, 255])
      for (const sigma of [0.4, 0.9, 1.5, 2.4]) {
        const made = Picture.rgba(engine, 21, 13)
        made.bytes().fill(value)
        blurFine(engine, made, sigma, sigma)
        expect(new Set(made.bytes()), `${value} at σ ${sigma}`).toEqual(new Set([value]))
        made.release()
      }
  })

  it('along rows keep edges across them sharp, however far they reach', () => {
    const painter = new LayerPainter(engine)
    for (const sigma of [1.5, 5, 12, 40]) {
      const made = painted(160, 90, (_, y) => (y < 40 ? [0, 0, 0] : [255, 255, 255]))
      blurWide(engine, painter, made, sigma, 0)
      const column = Array.from({ length: 90 }, (_, y) => made.bytes()[(y * 160 + 80) * 4]!)
      expect(column, `σ ${sigma}`).toEqual(Array.from({ length: 90 }, (_, y) => (y < 40 ? 0 : 255)))
      made.release()
    }
  })
})

describe('sharpening', () => {
  const luma = (of: Uint8Array) =>
    Array.from({ length: of.length / 4 }, (_, i) => (54 * of[i * 4]! + 183 * of[i * 4 + 1]! + 19 * of[i * 4 + 2]!) >> 8)

  it.each(SIZES)('adds what luma has beyond its blurred copy, held within alpha, %i × %i', (width, height) => {
    const painter = new LayerPainter(engine)
    for (const [sigma, amount] of [
      [0.6, 0.5],
      [1.5, 0.8],
      [2.2, 3.5],
    ] as const) {
      const made = picture(width, height, false)
      const before = made.bytes().slice()
      sharpenPicture(engine, painter, made, sigma, amount)
      const lumas = luma(before)
      const soft = gaussian(lumas, width, height, sigma)
      const wanted = before.map((value, i) => {
        const at = i >> 2
        if (i % 4 === 3) return value
        return Math.round(clamp(value + (lumas[at]! - soft[at]!) * amount, 0, before[at * 4 + 3]!))
      })
      const what = `σ ${sigma}, ${amount} times`
      expect(largestDifference(made.bytes(), wanted), what).toBeLessThanOrEqual(1)
      made.release()
    }
  })

  it('leaves no coloured seams: differences of channels stay as they were', () => {
    const painter = new LayerPainter(engine)
    const made = painted(40, 20, (x) => (x < 20 ? [128, 96, 64] : [144, 112, 96]))
    const before = made.bytes().slice()
    sharpenPicture(engine, painter, made, 1.5, 1)
    expect(largestDifference(made.bytes(), before)).toBeGreaterThan(3)
    for (let i = 0; i < 800; i++)
      for (const [a, b] of [
        [0, 1],
        [1, 2],
      ] as const)
        expect(made.bytes()[i * 4 + a]! - made.bytes()[i * 4 + b]!).toBe(before[i * 4 + a]! - before[i * 4 + b]!)
    made.release()
  })

  it('by a wide blur agrees with the narrow one where they meet', () => {
    const painter = new LayerPainter(engine)
    const smooth = () =>
      painted(120, 80, (x, y) => Array<number>(3).fill(Math.round(128 + 60 * Math.sin(x / 9) + 40 * Math.sin(y / 7))))
    const [narrow, wide] = [smooth(), smooth()]
    sharpenPicture(engine, painter, narrow, 2.4, 2)
    sharpenPicture(engine, painter, wide, 2.41, 2)
    // Twice what the two blurs are apart: less than a value, and at the edges, where the smaller copy's outermost
    // pixels stand for what would lie beyond, a few that can't be seen.
    const [a, b] = [narrow.bytes(), wide.bytes()]
    const inside = (_: number, i: number) => ((i >> 2) % 120) % 112 >= 8 && Math.floor(i / 480) % 72 >= 8
    expect(largestDifference(a.filter(inside), b.filter(inside))).toBeLessThanOrEqual(3)
    expect(largestDifference(a, b)).toBeLessThanOrEqual(9)
    narrow.release()
    wide.release()
  })
})

describe('coverage', () => {
  /** Each place of a plane by the ones around it along rows or columns. */
  const around =
    (plane: Uint8Array, width: number, height: number, radius: number, down: boolean, all: boolean) =>
    (join: (values: number[]) => number) =>
      plane.map((_, i) => {
        const [x, y] = [i % width, Math.floor(i / width)]
        const values: number[] = []
        for (let k = -radius; k <= radius; k++) {
          const [u, v] = down ? [x, y + k] : [x + k, y]
          const inside = u >= 0 && v >= 0 && u < width && v < height
          if (inside || all) values.push(plane[clamp(v, 0, height - 1) * width + clamp(u, 0, width - 1)]!)
        }
        return join(values)
      })

  it.each(SIZES)('spreads and shrinks as its neighbours say, %i × %i', (width, height) => {
    const plane = bytes(width * height, 5)
    for (const radius of [1, 2, 7, 20])
      for (const down of [0, 1] as const)
        for (const most of [0, 1] as const) {
          const found = on(
            [plane, new Uint8Array(plane.length)],
            (from, to) => kernels.spreadCover(from!, to!, width, height, radius, most, down),
            1,
          )
          const wanted = around(
            plane,
            width,
            height,
            radius,
            down === 1,
            false,
          )((values) => (most ? Math.max(...values) : Math.min(...values)))
          expect(found, `${radius} px, ${down ? 'down' : 'across'}`).toEqual(wanted)
        }
  })

  it.each(SIZES)(
    'is softened to the mean of its neighbours, near ones and far ones alike, %i × %i',
    (width, height) => {
      const plane = bytes(width * height, 6)
      for (const radius of [1, 3, 4, 5, 12])
        for (const down of [0, 1] as const) {
          const found = on(
            [plane, new Uint8Array(plane.length), new Uint8Array(width * 4)],
            (from, to, sums) => kernels.softenCover(from!, to!, width, height, radius, down, sums!),
            1,
          )
          const mean = (values: number[]) => Math.floor((values.reduce((a, b) => a + b) + radius) / values.length)
          const wanted = around(plane, width, height, radius, down === 1, true)(mean)
          expect(found, `${radius} px, ${down ? 'down' : 'across'}`).toEqual(wanted)
        }
    },
  )

  it.each(SIZES)('is stretched, and leaves of pixels what it covers, %i × %i', (width, height) => {
    const plane = bytes(width * height, 8)
    const [low, high] = [12.8, 230]
    const stretched = on([plane], (at) => kernels.stretchCover(at!, plane.length, low, high), 0)
    const wanted = plane.map((value) => Math.round(clamp(((value - low) * 255) / (high - low), 0, 255)))
    expect(largestDifference(stretched, wanted)).toBeLessThanOrEqual(1)
    const made = picture(width, height, false)
    const before = made.bytes().slice()
    const kept = on([before, plane], (at, by) => kernels.keepCovered(at!, by!, plane.length), 0)
    expect(
      largestDifference(
        kept,
        before.map((value, i) => Math.round((value * plane[i >> 2]!) / 255)),
      ),
    ).toBeLessThan(2)
    const whole = on([before, plane.map(() => 255)], (at, by) => kernels.keepCovered(at!, by!, plane.length), 0)
    expect(whole).toEqual(before)
    made.release()
  })

  it.each(SIZES)('by brightness and the taking out of a shine follow their formulas, %i × %i', (width, height) => {
    const made = picture(width, height, false, 11)
    const pixels = made.bytes().slice()
    const n = width * height
    const found = on([pixels, new Uint8Array(n)], (from, to) => kernels.keyLuma(from!, to!, n, 60, 180, 50), 1)
    const wanted = found.map((_, i) => {
      const [r, g, b] = [pixels[i * 4]!, pixels[i * 4 + 1]!, pixels[i * 4 + 2]!]
      const l = (54 * r + 183 * g + 19 * b) >> 8
      const t = clamp(Math.min((l - 60) / 50 + 0.5, (180 - l) / 50 + 0.5), 0, 1)
      return Math.round(t * t * (3 - 2 * t) * 255)
    })
    expect(largestDifference(found, wanted)).toBeLessThanOrEqual(1)
    const [cb, cr, amount] = [-0.6, -0.8, 0.7]
    const clean = on([pixels], (at) => kernels.despill(at!, n, cb, cr, amount), 0)
    const without = pixels.slice()
    for (let i = 0; i < n * 4; i += 4) {
      const [r, g, b, a] = pixels.subarray(i, i + 4) as unknown as [number, number, number, number]
      const [blue, red] = [-0.1146 * r - 0.3854 * g + 0.5 * b, 0.5 * r - 0.4542 * g - 0.0458 * b]
      const along = Math.max(0, blue * cb + red * cr)
      const [db, dr] = [-along * cb * amount, -along * cr * amount]
      without[i] = Math.round(clamp(r + 1.5748 * dr, 0, a))
      without[i + 1] = Math.round(clamp(g - 0.1873 * db - 0.4681 * dr, 0, a))
      without[i + 2] = Math.round(clamp(b + 1.8556 * db, 0, a))
    }
    expect(largestDifference(clean, without)).toBeLessThanOrEqual(1)
    made.release()
  })
})

describe('corners and grain', () => {
  it.each(SIZES)('darken by the table at the square of the distance, %i × %i', (width, height) => {
    for (const lighten of [0, 1] as const) {
      const made = picture(width, height, false, 21)
      const before = made.bytes().slice()
      const values = Int16Array.from({ length: 64 }, (_, i) => (i < 8 ? 0 : Math.min(32_767, (i - 8) * 900)))
      const table = heap.allocate(128)
      heap.shorts(table, 64).set(values)
      const [cx, cy, rx, ry] = [width * 0.4, height * 0.6, width * 0.3, height * 0.3]
      kernels.vignette(made.address(), width, 0, height, cx, cy, rx, ry, table, 64, 9, lighten)
      const wanted = before.map((value, i) => {
        if (i % 4 === 3) return value
        const [x, y] = [(i >> 2) % width, Math.floor((i >> 2) / width)]
        const square = ((x + 0.5 - cx) / rx) ** 2 + ((y + 0.5 - cy) / ry) ** 2
        const part = values[Math.min(63, Math.floor((square * 63) / 9))]! / 32_768
        return Math.round(lighten ? value + (before[i | 3]! - value) * part : value * (1 - part))
      })
      // Next to a step of the table one value more or less of the distance counts.
      expect(largestDifference(made.bytes(), wanted)).toBeLessThanOrEqual(8)
      let off = 0
      made.bytes().forEach((value, i) => (off += Math.abs(value - wanted[i]!)))
      expect(off / before.length).toBeLessThan(0.3)
      heap.release(table)
      made.release()
    }
  })

  it('is the same grain for opaque pixels by fours and one at a time', () => {
    const tile = heap.allocate(512 * 512 * 4)
    kernels.noiseTile(tile, 9)
    for (const [size, colour] of [
      [1, 0],
      [1, 0.6],
      [1.7, 0],
      [2.3, 1],
    ] as const) {
      const wide = picture(37, 6, true)
      // Columns of a picture are the same pixels, each in a row too short to be taken by fours.
      const grained = wide.bytes().slice()
      const whole = on([grained], (at) => kernels.grain(at!, 37, 0, 6, tile, 4, size, 40, colour), 0)
      const first = on(
        [Uint8Array.from({ length: 6 * 3 * 4 }, (_, i) => grained[Math.floor(i / 12) * 148 + (i % 12)]!)],
        (at) => kernels.grain(at!, 3, 0, 6, tile, 4, size, 40, colour),
        0,
      )
      for (let y = 0; y < 6; y++)
        expect(
          largestDifference(whole.subarray(y * 148, y * 148 + 12), first.subarray(y * 12, y * 12 + 12)),
          `size ${size}, row ${y}`,
        ).toBeLessThanOrEqual(1)
      expect(largestDifference(whole, grained)).toBeGreaterThan(4)
      wide.release()
    }
    heap.release(tile)
  })
})
