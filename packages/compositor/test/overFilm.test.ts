import { describe, expect, it } from 'vitest'
import { IDENTITY, maskPlan, type EffectsPlan, type FramePlan, type Matrix, type PictureLayer } from '@dusk/timeline'
import { Compositor, Picture, withoutHidden } from '../src/index'
import { bytes, engine, largestDifference } from './helpers'

const [WIDTH, HEIGHT] = [64, 48]
const e = await engine()

/** A film's frame whose light and colours go slowly, but for a little noise in its light. */
function film(width = WIDTH, height = HEIGHT, seed = 3): Picture {
  const picture = Picture.i420(e, width, height)
  const noise = bytes(width * height, seed)
  const [size, cw] = [width * height, width / 2]
  picture.bytes().forEach((_, i, all) => {
    const c = (i - size) % (size / 4)
    all[i] =
      i < size ? 80 + ((i % width) * 90) / width + (noise[i]! & 15) : 112 + (c / size) * 80 + ((c % cw) * 16) / cw
  })
  picture.changed()
  return picture
}

/** A still with a soft edge. */
function badge(): Picture {
  const pixels = Uint8Array.from({ length: 20 * 10 * 4 }, (_, i) => [230, 90, 40, ((i >> 2) % 20) * 12][i & 3]!)
  return Picture.fromStraight(e, 20, 10, pixels)
}

const layer = (picture: Picture, matrix: Matrix = IDENTITY, more: Partial<PictureLayer> = {}): PictureLayer => ({
  ...{ kind: 'picture', assetId: 'a', time: 0, width: picture.width, height: picture.height, matrix, opacity: 1 },
  ...{ alpha: false, ...more },
})
const planOf = (layers: FramePlan['layers'], more: Partial<FramePlan> = {}): FramePlan => ({
  ...{ width: WIDTH, height: HEIGHT, background: '#204060', layers, passThrough: false, ...more },
})
const effectsOf = (...stack: EffectsPlan['stack']): EffectsPlan => ({ stack, scale: 1, time: 0 })
const TONE = { kind: 'tone', settings: { exposure: 0.4, contrast: 20 }, strength: 1 } as const
const WARM = { kind: 'balance', settings: { temperature: 40, saturation: 30 }, strength: 0.7 } as const
const BLUR = { kind: 'blur', settings: { radius: 8 }, strength: 1 } as const

/** A frame as the encoder takes it, and as its pixels would come to. */
function both(plan: FramePlan, pictures: Picture[]) {
  const compositor = new Compositor(e)
  const planes = compositor.composeI420(plan, pictures).slice()
  const pixels = compositor.toI420(compositor.compose(plan, pictures)).slice()
  compositor.release()
  return { planes, pixels }
}
const lumaRow = (planes: Uint8Array, y: number) => planes.subarray(y * WIDTH, (y + 1) * WIDTH)

describe('a frame for an encoder', () => {
  it.each([
    ['at its own size', film(), IDENTITY, 2],
    ['larger', film(44, 34), [1.5, 0, 0, 1.5, -1.5, -1], 3],
    ['at half its size', film(WIDTH * 2, HEIGHT * 2), [0.5, 0, 0, 0.5, 0, 0], 4],
    ['smaller by a third', film(96, 72), [2 / 3, 0, 0, 2 / 3, 0, 0], 3],
  ] as [string, Picture, Matrix, number][])('keeps a film’s planes where nothing lies on it: %s', (_, own, m, near) => {
    const [still, before] = [badge(), own.bytes().slice()]
    const bottom = layer(own, m)
    const over = [
      layer(still, [1, 0, 0, 1, 7, 21], { alpha: true }),
      layer(still, [0.8, 0.3, -0.3, 0.8, 40, 19], { alpha: true, opacity: 0.6 }),
    ]
    const alone = both(planOf([bottom]), [own]).planes
    const { planes, pixels } = both(planOf([bottom, ...over]), [own, still, still])
    // As good as drawn in colours …
    expect(largestDifference(planes, pixels)).toBeLessThanOrEqual(near)
    // … the film's own above and below what lies on it, and changed where it lies.
    for (const y of [0, 10, 15, 37, HEIGHT - 1]) expect(lumaRow(planes, y), `row ${y}`).toEqual(lumaRow(alone, y))
    expect(largestDifference(lumaRow(planes, 26), lumaRow(alone, 26))).toBeGreaterThan(20)
    expect(own.bytes()).toEqual(before)
  })

  it('mixes the planes of two films that dissolve', () => {
    const [one, two, still] = [film(), film(44, 34, 9), badge()]
    const [from, to] = [layer(one), layer(two, [1.5, 0, 0, 1.5, -1.5, -1], { effects: effectsOf(TONE) })]
    const change = (transition: string, progress: number, ease = 'linear') =>
      planOf([
        { kind: 'transition', transition, settings: { ease }, progress, from, to },
        layer(still, [1, 0, 0, 1, 7, 21], { alpha: true }),
      ])
    const ends = [both(planOf([from]), [one]).planes, both(planOf([to]), [two]).planes]
    for (const progress of [0, 0.25, 0.8, 1]) {
      const { planes, pixels } = both(change('dissolve', progress), [one, two, still])
      expect(largestDifference(planes, pixels), `${progress}`).toBeLessThanOrEqual(6)
      const mixed = lumaRow(ends[0]!, 3).map((a, x) => Math.round(a + (lumaRow(ends[1]!, 3)[x]! - a) * progress))
      expect(largestDifference(lumaRow(planes, 3), mixed), `${progress}`).toBeLessThanOrEqual(1)
    }
    const early = both(change('dissolve', 0.25, 'both'), [one, two, still])
    expect(largestDifference(early.planes, early.pixels)).toBeLessThanOrEqual(6)
    expect(early.planes).not.toEqual(both(change('dissolve', 0.25), [one, two, still]).planes)
    const wiped = both(change('wipe', 0.25), [one, two, still])
    expect(wiped.planes).toEqual(wiped.pixels)
  })

  it('is drawn where a layer reaches over the edges, or lies outside', () => {
    const [own, still] = [film(), badge()]
    const at = (x: number, y: number) => planOf([layer(own), layer(still, [1, 0, 0, 1, x, y], { alpha: true })])
    for (const [x, y] of [
      [-5, -4],
      [50, 43],
      [10, 17.5],
    ] as const) {
      const { planes, pixels } = both(at(x, y), [own, still])
      expect(largestDifference(planes, pixels), `${x} ${y}`).toBeLessThanOrEqual(2)
      expect(largestDifference(planes, own.bytes())).toBeGreaterThan(20)
    }
    for (const y of [-30, 80]) expect(both(at(0, y), [own, still]).planes).toEqual(own.bytes())
  })

  it('is drawn whole where a layer may reach beyond its outline', () => {
    const [own, still] = [film(), badge()]
    const place: Matrix = [1, 0, 0, 1, 20, 20]
    for (const more of [
      { blend: 'multiply' },
      { effects: effectsOf(BLUR) },
      { motionBlur: [place, [1, 0, 0, 1, 20, 40]] },
      { backgroundFill: { kind: 'colour', colour: '#ffffff' } },
    ] as Partial<PictureLayer>[]) {
      const plan = planOf([layer(own), layer(still, place, { alpha: true, ...more })])
      const { planes, pixels } = both(plan, [own, still])
      expect(planes, Object.keys(more)[0]).toEqual(pixels)
    }
    const { planes, pixels } = both(planOf([layer(own)], { effects: effectsOf(TONE) }), [own])
    expect(planes).toEqual(pixels)
  })

  it('shows a still that fills it as a film is shown', () => {
    const straight = new Uint8Array(80 * 60 * 4)
    for (let i = 0; i < straight.length; i++)
      straight[i] = [(i >> 2) % 80, ((i >> 2) / 80) | 0, 90, 255][i & 3]! * ((i & 3) < 2 ? 2.5 : 1)
    const still = Picture.fromStraight(e, 80, 60, straight)
    const matrix: Matrix = [0.85, 0, 0, 0.85, -2, -1.5]
    const { planes, pixels } = both(planOf([layer(still, matrix)]), [still])
    expect(planes).not.toEqual(pixels)
    expect(largestDifference(planes, pixels)).toBeLessThanOrEqual(2)
    // Enlarged its chroma would be coarser than the output's: it is drawn in colours.
    const close = both(planOf([layer(still, [1.6, 0, 0, 1.6, -10, -10])]), [still])
    expect(close.planes).toEqual(close.pixels)
  })
})

describe('colours of a source', () => {
  it('are changed at its own size, and come to what they come to in the output', () => {
    for (const [own, matrix, near] of [
      [film(), IDENTITY, 4],
      [film(44, 34), [1.5, 0, 0, 1.5, -1.5, -1], 6],
    ] as [Picture, Matrix, number][]) {
      const wanted = both(planOf([layer(own, matrix)], { effects: effectsOf(TONE, WARM) }), [own]).pixels
      const { planes, pixels } = both(planOf([layer(own, matrix, { effects: effectsOf(TONE, WARM) })]), [own])
      expect(largestDifference(planes, wanted)).toBeLessThanOrEqual(near)
      expect(largestDifference(pixels, wanted)).toBeLessThanOrEqual(near)
      expect(largestDifference(planes, both(planOf([layer(own, matrix)]), [own]).planes)).toBeGreaterThan(15)
    }
  })

  it('are those of the frame that is there now', () => {
    const [own, other, compositor] = [film(), film(WIDTH, HEIGHT, 9), new Compositor(e)]
    const graded = (stack: EffectsPlan['stack']) => planOf([layer(own, IDENTITY, { effects: effectsOf(...stack) })])
    const first = compositor.composeI420(graded([TONE]), [own]).slice()
    const next = compositor.composeI420(graded([WARM]), [own]).slice()
    expect(largestDifference(first, next)).toBeGreaterThan(10)
    own.bytes().set(other.bytes())
    own.changed()
    const later = compositor.composeI420(graded([TONE]), [own]).slice()
    expect(later).toEqual(compositor.composeI420(graded([TONE]), [other]))
    expect(later).not.toEqual(first)
    compositor.release()
  })

  it('are changed first, then what comes after is drawn', () => {
    const own = film()
    const [after, all] = [effectsOf(TONE, BLUR, WARM), effectsOf(TONE)]
    const drawn = both(planOf([layer(own, IDENTITY, { effects: after })]), [own])
    const changed = new Compositor(e)
    const graded = Picture.i420(e, WIDTH, HEIGHT)
    graded.bytes().set(changed.composeI420(planOf([layer(own, IDENTITY, { effects: all })]), [own]))
    graded.changed()
    const rest = both(planOf([layer(graded, IDENTITY, { effects: effectsOf(BLUR, WARM) })]), [graded])
    expect(largestDifference(drawn.pixels, rest.pixels)).toBeLessThanOrEqual(1)
  })

  it('are changed where they lie when a mask is on a picture that fills the output', () => {
    const own = film()
    const shape = { id: crypto.randomUUID(), kind: 'ellipse', mode: 'add', settings: { outer: 10, size: [40, 60] } }
    const masked = effectsOf({ ...TONE, mask: maskPlan({ shapes: [shape as never] }, 0) })
    const onLayer = both(planOf([layer(own, IDENTITY, { effects: masked })]), [own])
    const onCanvas = both(planOf([layer(own)], { effects: masked }), [own])
    expect(onLayer.pixels).toEqual(onCanvas.pixels)
    expect(largestDifference(onLayer.pixels, own.bytes())).toBeGreaterThan(15)
    // Its mask goes with it where it is larger than the output.
    const large = layer(own, [2, 0, 0, 2, -30, -20], { effects: masked })
    const sheet = { ...large, opacity: 0.9999 }
    const [filling, laid] = [both(planOf([large]), [own]), both(planOf([sheet]), [own])]
    expect(largestDifference(filling.pixels, laid.pixels)).toBeLessThanOrEqual(2)
  })

  it('are changed at the output’s size where the source has more than is drawn of it', () => {
    const own = film(WIDTH * 4, HEIGHT * 4)
    const small: Matrix = [0.25, 0, 0, 0.25, 0, 0]
    const { planes, pixels } = both(planOf([layer(own, small, { effects: effectsOf(TONE) })]), [own])
    const wanted = both(planOf([layer(own, small)], { effects: effectsOf(TONE) }), [own])
    expect(planes).toEqual(pixels)
    expect(pixels).toEqual(wanted.pixels)
  })
})

describe('what is hidden', () => {
  const [back, front] = [film(), film(WIDTH, HEIGHT, 8)]
  const shown = (more: Partial<PictureLayer>, matrix = IDENTITY) =>
    withoutHidden(planOf([layer(back), layer(front, matrix, more)])).layers.length

  it('is not fetched behind a picture whose colours are changed', () => {
    expect(shown({ effects: effectsOf(TONE, WARM) })).toBe(1)
    expect(shown({ effects: effectsOf({ ...TONE, mask: maskPlan({ shapes: [] }, 0) }) })).toBe(1)
  })

  it('stays where it may be seen', () => {
    expect(shown({ effects: effectsOf(TONE, BLUR) })).toBe(2)
    expect(shown({ effects: effectsOf({ kind: 'keyColour', settings: {}, strength: 1 }) })).toBe(2)
    expect(shown({ effects: effectsOf(TONE), alpha: true })).toBe(2)
    expect(shown({ effects: effectsOf(TONE), opacity: 0.5 })).toBe(2)
    expect(shown({ effects: effectsOf(TONE), blend: 'screen' })).toBe(2)
    expect(shown({ effects: effectsOf(TONE) }, [1, 0, 0, 1, 0, 1])).toBe(2)
  })
})
