import { describe, expect, it } from 'vitest'
import type { FramePlan, Params, PlacedLayer } from '@dusk/timeline'
import { Compositor, Picture, TRANSITIONS } from '../src/index'
import { bytes, engine, largestDifference } from './helpers'

const [W, H] = [64, 36]

/** Smooth opaque pixels, so that resampling at whole places is exact. */
function opaque(seed: number): Uint8Array {
  const pixels = bytes(W * H * 4, seed)
  for (let i = 3; i < pixels.length; i += 4) pixels[i] = 255
  return pixels
}

const side = (assetId: string): PlacedLayer => ({
  kind: 'picture',
  assetId,
  time: 0,
  width: W,
  height: H,
  matrix: [1, 0, 0, 1, 0, 0],
  opacity: 1,
  alpha: false,
})

async function stage() {
  const e = await engine()
  const [a, b] = [opaque(1), opaque(2)]
  const pictures = [a, b].map((pixels) => {
    const picture = Picture.rgba(e, W, H)
    picture.bytes().set(pixels)
    return picture
  })
  const compositor = new Compositor(e)
  const draw = (
    transition: string,
    progress: number,
    settings = {},
    from: PlacedLayer | null = side('a'),
    to: PlacedLayer | null = side('b'),
    step = 0,
  ) => {
    const plan: FramePlan = {
      width: W,
      height: H,
      background: '#000000',
      layers: [{ kind: 'transition', transition, settings, progress, step, from, to }],
      passThrough: false,
    }
    const shown = from && to ? pictures : from ? [pictures[0]!] : [pictures[1]!]
    return compositor.compose(plan, shown).pixels().slice()
  }
  return { e, a, b, draw }
}

describe('transitions', async () => {
  const { e, a, b, draw } = await stage()

  it.each(TRANSITIONS.map((kind) => kind.id))(
    '%s begins as the first picture, ends as the second, and is neither between',
    (id) => {
      // Bent and smeared pictures are sampled between pixels, so a pixel may differ by a little more than rounding.
      expect(largestDifference(draw(id, 0), a)).toBeLessThanOrEqual(2)
      expect(largestDifference(draw(id, 1), b)).toBeLessThanOrEqual(2)
      const between = [0.3, 0.5, 0.7].map((t) => draw(id, t))
      expect(between.some((pixels) => largestDifference(pixels, a) > 30 && largestDifference(pixels, b) > 30)).toBe(
        true,
      )
    },
  )

  it.each([2, 3, 4, 5, 12, 15, 30, 31, 60])('dips reach their colour once when they last %d frames', (frames) => {
    for (const ease of ['linear', 'both', 'in'])
      for (const id of ['dip', 'blink', 'irisShut']) {
        const whole = Array.from({ length: frames }, (_, i) =>
          draw(id, (i + 0.5) / frames, { colour: '#20c040', ease }, side('a'), side('b'), 1 / frames),
        )
        const full = whole.filter((pixels) => {
          for (let i = 0; i < pixels.length; i += 4)
            if (Math.abs(pixels[i]! - 0x20) > 1 || Math.abs(pixels[i + 1]! - 0xc0) > 1) return false
          return true
        })
        expect(full.length, `${id}, ${ease}`).toBeGreaterThanOrEqual(1)
        if (id === 'dip') expect(full.length, ease).toBe(1)
      }
  })

  it('give back all memory they take', () => {
    draw('burn', 0.5)
    const before = e.heap.bytesInUse
    for (const kind of TRANSITIONS.slice(0, 8)) draw(kind.id, 0.5)
    draw('burn', 0.5)
    // Maps of wipes are kept for a while, and nothing else.
    expect(e.heap.bytesInUse - before).toBeLessThan(8 * W * H * 2 + 8 * 256)
  })

  it('take odd settings without a fault: out of range, of another kind, not there', () => {
    const odd: Params[] = [
      { softness: 1e9, edge: -4, count: 'many', direction: 'sideways', seed: 1.5 },
      { count: 0, size: 0, amount: -1 },
      {},
    ]
    for (const kind of TRANSITIONS)
      for (const settings of odd) expect(draw(kind.id, 0.4, settings)).toHaveLength(W * H * 4)
    expect(draw('gone', 0.5)).toEqual(draw('dissolve', 0.5))
  })

  it('fade one clip in and out alone', () => {
    const half = draw('dissolve', 0.5, {}, null, side('b'))
    for (let i = 0; i < half.length; i += 97)
      if (i % 4 !== 3) expect(Math.abs(half[i]! - b[i]! / 2)).toBeLessThanOrEqual(1)
    expect(draw('dissolve', 0, {}, null, side('b')).some((value, i) => i % 4 !== 3 && value !== 0)).toBe(false)
  })

  it('follow their direction and ease', () => {
    const changed = (pixels: Uint8Array, x: number) =>
      pixels.slice((18 * W + x) * 4, (18 * W + x) * 4 + 3).join() ===
      b.slice((18 * W + x) * 4, (18 * W + x) * 4 + 3).join()
    const right = draw('wipe', 0.5, { direction: 'right', softness: 0, ease: 'linear' })
    expect([changed(right, 5), changed(right, 58)]).toEqual([true, false])
    const left = draw('wipe', 0.5, { direction: 'left', softness: 0, ease: 'linear' })
    expect([changed(left, 5), changed(left, 58)]).toEqual([false, true])
    // A slow start has gone less far at a quarter of the time.
    const slow = draw('wipe', 0.25, { direction: 'right', softness: 0, ease: 'in' })
    const even = draw('wipe', 0.25, { direction: 'right', softness: 0, ease: 'linear' })
    expect([changed(even, 12), changed(slow, 12)]).toEqual([true, false])
  })
})
