import { describe, expect, it } from 'vitest'
import { BLEND_MODES, type BlendMode, type FramePlan, type LayerPlan, type PlacedLayer } from '@dusk/timeline'
import { Compositor, Picture, TRANSITIONS } from '../src/index'
import { bytes, engine, largestDifference } from './helpers'

const [W, H] = [64, 36]

const layer = (assetId: string, blend?: BlendMode): PlacedLayer => ({
  kind: 'picture',
  assetId,
  time: 0,
  width: W,
  height: H,
  matrix: [1, 0, 0, 1, 0, 0],
  opacity: 1,
  alpha: false,
  ...(blend && blend !== 'normal' ? { blend } : {}),
})

/** An adjustment that turns everything beneath upside down. */
const upsideDown: PlacedLayer = {
  kind: 'backdrop',
  width: W,
  height: H,
  matrix: [1, 0, 0, -1, 0, H],
  opacity: 1,
  alpha: true,
}

const e = await engine()
const compositor = new Compositor(e)
const pictures = new Map(
  ['ground', 'a', 'b'].map((name, i) => {
    const picture = Picture.rgba(e, W, H)
    const pixels = bytes(W * H * 4, i + 1)
    for (let p = 3; p < pixels.length; p += 4) pixels[p] = 255
    picture.bytes().set(pixels)
    return [name, picture] as const
  }),
)

function draw(...layers: LayerPlan[]): Uint8Array {
  const plan: FramePlan = { width: W, height: H, background: '#000000', layers, passThrough: false }
  const shown: Picture[] = []
  const take = (of: LayerPlan | null): void => {
    if (of?.kind === 'picture') shown.push(pictures.get(of.assetId)!)
    else if (of?.kind === 'transition') [of.from, of.to].forEach(take)
  }
  layers.forEach(take)
  return compositor.compose(plan, shown).pixels().slice()
}

const change = (
  from: PlacedLayer | null,
  to: PlacedLayer | null,
  progress: number,
  transition = 'dissolve',
): LayerPlan => ({ kind: 'transition', transition, settings: {}, progress, from, to })

const ground = layer('ground')

describe('a transition of clips that mix with what is beneath', () => {
  it.each(BLEND_MODES)('comes from nothing, goes to nothing and never shows anything else (%s)', (blend) => {
    const without = draw(ground)
    const whole = draw(ground, layer('a', blend))
    expect(largestDifference(draw(ground, change(null, layer('a', blend), 0)), without)).toBeLessThanOrEqual(1)
    expect(largestDifference(draw(ground, change(null, layer('a', blend), 1)), whole)).toBeLessThanOrEqual(1)
    expect(largestDifference(draw(ground, change(layer('a', blend), null, 1)), without)).toBeLessThanOrEqual(1)
    // Half way each pixel lies between the two: nothing flashes black or white.
    const half = draw(ground, change(null, layer('a', blend), 0.5))
    for (let i = 0; i < half.length; i++) {
      expect(half[i]).toBeGreaterThanOrEqual(Math.min(without[i]!, whole[i]!) - 4)
      expect(half[i]).toBeLessThanOrEqual(Math.max(without[i]!, whole[i]!) + 4)
    }
  })

  it.each(TRANSITIONS.map((kind) => kind.id))('keeps the blend from one clip to the next (%s)', (id) => {
    for (const [one, other] of [
      ['screen', 'screen'],
      ['screen', 'normal'],
      ['multiply', 'overlay'],
    ] as const) {
      const [a, b] = [layer('a', one), layer('b', other)]
      expect(largestDifference(draw(ground, change(a, b, 0, id)), draw(ground, a))).toBeLessThanOrEqual(2)
      expect(largestDifference(draw(ground, change(a, b, 1, id)), draw(ground, b))).toBeLessThanOrEqual(2)
    }
  })

  it('lets an adjustment come and go', () => {
    const [without, whole] = [draw(ground), draw(ground, upsideDown)]
    expect(largestDifference(without, whole)).toBeGreaterThan(50)
    expect(largestDifference(draw(ground, change(null, upsideDown, 0)), without)).toBeLessThanOrEqual(1)
    expect(largestDifference(draw(ground, change(null, upsideDown, 1)), whole)).toBeLessThanOrEqual(1)
    const half = draw(ground, change(upsideDown, null, 0.5))
    for (let i = 0; i < half.length; i++)
      expect(Math.abs(half[i]! - (without[i]! + whole[i]!) / 2)).toBeLessThanOrEqual(2)
  })
})
