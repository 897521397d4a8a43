import { describe, expect, it } from 'vitest'
import type { FramePlan, Matrix } from '@dusk/timeline'
import { Compositor, Picture } from '../src/index'
import { bytes, engine } from './helpers'

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
})
