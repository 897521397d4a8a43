import { describe, expect, it } from 'vitest'
import { IDENTITY, maskPlan, paramsSchema, resolveParams, type EffectsPlan, type FramePlan } from '@dusk/timeline'
import { Compositor, EFFECT_FAMILIES, Picture, PICTURE_EFFECTS, pictureEffect, type EffectKind } from '../src/index'
import { bytes, engine } from './helpers'

const [WIDTH, HEIGHT] = [64, 48]

/** A picture with every kind of colour, smooth and rough. */
function scene(): Uint8Array {
  const noise = bytes(WIDTH * HEIGHT, 5)
  return Uint8Array.from({ length: WIDTH * HEIGHT * 4 }, (_, i) => {
    const [n, c] = [i >> 2, i & 3]
    const [x, y] = [n % WIDTH, Math.floor(n / WIDTH)]
    if (c === 3) return 255
    // The lowest rows are skin, a little rough.
    if (y >= 38 && x < 40) return [205, 150, 126][c]! + ((noise[n]! & 15) - 8)
    const smooth = [x * 4, y * 5, 255 - (x + y) * 2][c]!
    return x < 40 ? smooth : (smooth + noise[n]!) >> 1
  })
}
const SCENE = scene()

const stackOf = (kind: string, settings: object = {}, strength = 1): EffectsPlan['stack'] => [
  { kind, settings: settings as never, strength },
]

/** What a stack makes of the scene, on a layer that fills the frame. */
async function drawn(
  stack: EffectsPlan['stack'],
  more: { time?: number; scale?: number; inspecting?: boolean } = {},
): Promise<Uint8Array> {
  const e = await engine()
  const picture = Picture.rgba(e, WIDTH, HEIGHT)
  picture.bytes().set(SCENE)
  const effects: EffectsPlan = { stack, scale: more.scale ?? 0.1, time: more.time ?? 0 }
  const layer = {
    ...{ kind: 'picture' as const, assetId: 'a', time: 0, width: WIDTH, height: HEIGHT, alpha: true, opacity: 1 },
    ...{ matrix: IDENTITY, ...(stack.length > 0 ? { effects } : {}) },
  }
  const plan: FramePlan = { width: WIDTH, height: HEIGHT, background: '#000000', layers: [layer], passThrough: false }
  const compositor = new Compositor(e)
  compositor.inspecting = more.inspecting ?? false
  const result = compositor.compose(plan, [picture]).pixels().slice()
  compositor.release()
  picture.release()
  return result
}

/** Largest and mean difference of two pictures. */
function apart(a: Uint8Array, b: Uint8Array): { most: number; mean: number } {
  let [most, sum] = [0, 0]
  for (let i = 0; i < a.length; i++) {
    const off = Math.abs(a[i]! - b[i]!)
    most = Math.max(most, off)
    sum += off
  }
  return { most, mean: sum / a.length }
}

/** A colour effect by its formula, in floating point. */
function byFormula(kind: EffectKind, settings: object): Float64Array {
  if (!('colour' in kind)) throw new Error('not a colour effect')
  const change = kind.colour(resolveParams(kind.params, settings as never, 0), () => null)
  const out = new Float64Array(SCENE.length)
  const rgb = new Float64Array(3)
  for (let i = 0; i < SCENE.length; i += 4) {
    for (let c = 0; c < 3; c++) rgb[c] = SCENE[i + c]! / 255
    change(rgb)
    for (let c = 0; c < 3; c++) out[i + c] = Math.min(255, Math.max(0, rgb[c]! * 255))
    out[i + 3] = 255
  }
  return out
}

/** Fails unless an effect is seen in what it made of the scene, and what was opaque is so still. */
function showsItself(kind: EffectKind, settings: object, out: Uint8Array): void {
  // Specks and scratches change few pixels, and those much.
  const { mean, most } = apart(out, SCENE)
  expect(mean > 0.3 || most > 60 ? '' : `${mean} ${most}`, `${kind.id} ${JSON.stringify(settings)}`).toBe('')
  if (kind.family !== 'key') expect(out[(24 * WIDTH + 20) * 4 + 3], kind.id).toBe(255)
}

const colours = PICTURE_EFFECTS.filter((kind) => 'colour' in kind)
/** Effects whose colours jump or bend too sharply for any table: only most of their pixels come near. */
const ABRUPT = new Set(['posterise', 'solarise', 'inkOnly', 'oneHue', 'heat', 'curves', 'hues'])
/** Corrections do nothing before something is set. */
const NEUTRAL = new Set(['tone', 'balance', 'levels', 'wheels', 'curves', 'hues', 'lutFile', 'cutAway', 'steadyNoise'])

/** An effect as it comes. */
const NOTHING = {}

/** What tears stripes or squares out: several of them have to lie in so small a picture. */
const SMALL = new Set(['tear', 'dataRot', 'blocks'])

describe('picture effects', () => {
  it('have families, names and presets of their own, all within their settings', () => {
    expect(PICTURE_EFFECTS.length).toBeGreaterThanOrEqual(70)
    const ids = new Set<string>()
    for (const kind of PICTURE_EFFECTS) {
      expect(kind.family in EFFECT_FAMILIES).toBe(true)
      expect(ids.has(kind.id), kind.id).toBe(false)
      ids.add(kind.id)
      for (const { id, settings } of kind.presets)
        expect(paramsSchema(kind.params).safeParse(settings).success, id).toBe(true)
    }
    expect(pictureEffect('grade')!.presets.length).toBeGreaterThanOrEqual(24)
  })

  it('do what their formulas say: each colour within a value or two, alone and fused', async () => {
    for (const kind of colours) {
      // Each third preset; `./dusk test --long` tries all.
      const presets = kind.presets.filter((_, i) => process.env.DUSK_LONG || i % 3 === 0)
      for (const settings of [NOTHING, ...presets.map((entry) => entry.settings)]) {
        const out = await drawn(stackOf(kind.id, settings))
        const wanted = byFormula(kind, settings)
        const off = Array.from(out, (value, i) => Math.abs(value - wanted[i]!)).sort((a, b) => a - b)
        const [most, usual] = [off.at(-1)!, off[Math.floor(off.length * 0.9)]!]
        const name = `${kind.id} ${JSON.stringify(settings)}`
        expect(usual, name).toBeLessThanOrEqual(2)
        if (!ABRUPT.has(kind.id)) expect(most, name).toBeLessThanOrEqual(3)
        // Neither time nor scale says anything to a colour: what was drawn here will do, tables being long to make.
        if (settings !== NOTHING || !NEUTRAL.has(kind.id)) showsItself(kind, settings, out)
      }
    }
  })

  it('leave the picture alone at no strength, and as corrections that were not set', async () => {
    for (const kind of PICTURE_EFFECTS) {
      const off = await drawn(stackOf(kind.id, {}, 0))
      expect(apart(off, SCENE).most, kind.id).toBe(0)
    }
    for (const id of NEUTRAL) expect(apart(await drawn(stackOf(id)), SCENE).most, id).toBe(0)
  })

  it('show themselves at their defaults and with every preset, and stay opaque inside', async () => {
    for (const kind of PICTURE_EFFECTS) {
      // What weighs other frames shows nothing on one.
      if (kind.id === 'steadyNoise' || 'colour' in kind) continue
      for (const settings of [...(NEUTRAL.has(kind.id) ? [] : [{}]), ...kind.presets.map((entry) => entry.settings)])
        showsItself(
          kind,
          settings,
          await drawn(stackOf(kind.id, settings), { time: 0.7, scale: SMALL.has(kind.id) ? 0.3 : 1 }),
        )
    }
  })

  it('are mixed with what was there by their strength', async () => {
    for (const id of ['negative', 'mosaic', 'wash']) {
      const all = await drawn(stackOf(id))
      const half = await drawn(stackOf(id, {}, 0.5))
      const mean = SCENE.map((value, i) => (value + all[i]!) >> 1)
      expect(apart(half, mean).most, id).toBeLessThanOrEqual(2)
    }
  })

  it('act where their mask covers, colours and pictures alike; a mask by itself leaves what it covers', async () => {
    const half = maskPlan(
      {
        shapes: [
          { id: 'm', kind: 'rectangle', mode: 'add', settings: { position: [25, 50], size: [50, 100], outer: 0 } },
        ],
      },
      0,
    )
    for (const id of ['negative', 'wash', 'mosaic']) {
      const [all, masked] = [await drawn(stackOf(id)), await drawn([{ ...stackOf(id)[0]!, mask: half }])]
      for (const [x, wanted] of [
        [10, all],
        [50, SCENE],
      ] as const) {
        const i = (20 * WIDTH + x) * 4
        expect([...masked.slice(i, i + 3)], `${id} at ${x}`).toEqual([...wanted.slice(i, i + 3)])
      }
    }
    const cut = await drawn([{ ...stackOf('cutAway')[0]!, mask: half }])
    const i = (20 * WIDTH + 10) * 4
    expect([...cut.slice(i, i + 3)]).toEqual([...SCENE.slice(i, i + 3)])
    expect([...cut.slice((20 * WIDTH + 50) * 4, (20 * WIDTH + 50) * 4 + 3)]).toEqual([0, 0, 0])
  })

  it('weigh frames before and after: noise goes, what moved stays', async () => {
    const e = await engine()
    const frame = (n: number) => {
      const noise = bytes(WIDTH * HEIGHT, 40 + n)
      const picture = Picture.rgba(e, WIDTH, HEIGHT)
      picture.bytes().set(
        Uint8Array.from({ length: WIDTH * HEIGHT * 4 }, (_, i) => {
          const [x, y] = [(i >> 2) % WIDTH, Math.floor((i >> 2) / WIDTH)]
          if (i % 4 === 3) return 255
          // A bright square that jumps from frame to frame, on grey with noise.
          const square = x >= 10 + 12 * n && x < 18 + 12 * n && y >= 10 && y < 18
          return square ? 240 : 100 + (noise[i >> 2]! % 24) - 12
        }),
      )
      return picture
    }
    const frames = [1, 0, 2, 3].map(frame)
    const layer = {
      ...{ kind: 'picture' as const, assetId: 'a', time: 0, width: WIDTH, height: HEIGHT, alpha: true, opacity: 1 },
      ...{ matrix: IDENTITY, beside: [1, 2, 3] },
      effects: { stack: stackOf('steadyNoise', { level: 60 }), scale: 1, time: 0 },
    }
    const plan: FramePlan = { width: WIDTH, height: HEIGHT, background: '#000000', layers: [layer], passThrough: false }
    const compositor = new Compositor(e)
    const out = compositor.compose(plan, frames).pixels().slice()
    const spread = (pixels: Uint8Array) => {
      const values = Array.from(
        { length: WIDTH * 10 },
        (_, i) => pixels[((i % WIDTH) + (30 + Math.floor(i / WIDTH)) * WIDTH) * 4]!,
      )
      const mean = values.reduce((sum, value) => sum + value, 0) / values.length
      return Math.sqrt(values.reduce((sum, value) => sum + (value - mean) ** 2, 0) / values.length)
    }
    expect(spread(out) / spread(frames[0]!.pixels())).toBeLessThan(0.75)
    expect(out[(14 * WIDTH + 26) * 4]).toBe(240)
    // Where the square was a frame before there is none of it now.
    expect(out[(14 * WIDTH + 14) * 4]!).toBeLessThan(120)
    compositor.release()
    for (const picture of frames) picture.release()
  })

  it('come one after the other, neighbouring colours as one table', async () => {
    const both = await drawn([...stackOf('negative'), ...stackOf('negative')])
    expect(apart(both, SCENE).most).toBe(0)
    const between = await drawn([...stackOf('negative'), ...stackOf('mosaic', { size: 80 }), ...stackOf('negative')])
    const alone = await drawn(stackOf('mosaic', { size: 80 }))
    expect(apart(between, alone).most).toBeLessThanOrEqual(1)
    // An effect of a newer version is passed over.
    expect(apart(await drawn(stackOf('newerThanThis')), SCENE).most).toBe(0)
  })

  it('draw gradients without bands: no step is larger than one', async () => {
    const e = await engine()
    const [w, h] = [1024, 8]
    const ramp = Picture.rgba(e, w, h)
    ramp.bytes().set(Uint8Array.from({ length: w * h * 4 }, (_, i) => (i % 4 === 3 ? 255 : ((i >> 2) % w) >> 2)))
    const compositor = new Compositor(e)
    const effects: EffectsPlan = { stack: stackOf('grade', { contrast: 0, fade: 30 }), scale: 1, time: 0 }
    const layer = {
      ...{ kind: 'picture' as const, assetId: 'a', time: 0, width: w, height: h, alpha: true, opacity: 1 },
      ...{ matrix: IDENTITY, effects },
    }
    const out = compositor
      .compose({ width: w, height: h, background: '#000000', layers: [layer], passThrough: false }, [ramp])
      .pixels()
    // Dithered: the means of blocks rise evenly, by less than a value from one to the next.
    const mean = (x: number) => {
      let sum = 0
      for (let y = 0; y < 8; y++) for (let k = 0; k < 8; k++) sum += out[(y * w + x + k) * 4]!
      return sum / 64
    }
    for (let x = 8; x + 16 <= w; x += 8) expect(Math.abs(mean(x) - mean(x - 8)), `${x}`).toBeLessThan(3)
    for (let x = 0; x + 1 < w; x++)
      for (let y = 0; y < 8; y++)
        expect(Math.abs(out[(y * w + x + 1) * 4]! - out[(y * w + x) * 4]!), `${x}`).toBeLessThanOrEqual(2)
    compositor.release()
    ramp.release()
  })

  it('reach beyond the edge of a picture that is smaller than the frame', async () => {
    const e = await engine()
    const picture = Picture.rgba(e, 20, 20)
    picture.bytes().fill(255)
    const effects: EffectsPlan = { stack: stackOf('blur', { radius: 6, edge: 'soft' }), scale: 1, time: 0 }
    const layer = {
      ...{ kind: 'picture' as const, assetId: 'a', time: 0, width: 20, height: 20, alpha: true, opacity: 1 },
      ...{ matrix: [1, 0, 0, 1, 30, 30] as never, effects },
    }
    const compositor = new Compositor(e)
    const out = compositor.compose(
      { width: 80, height: 80, background: '#000000', layers: [layer], passThrough: false },
      [picture],
    )
    const at = (x: number, y: number) => out.pixels()[(y * 80 + x) * 4]!
    expect(at(40, 40)).toBeGreaterThan(150)
    expect(at(26, 40)).toBeGreaterThan(20)
    expect(at(26, 40)).toBeLessThan(at(32, 40))
    expect(at(2, 40)).toBe(0)
    compositor.release()
    picture.release()
  })

  it('throw the same dice at the same moment, and others later', async () => {
    for (const id of ['grain', 'tear']) {
      const first = await drawn(stackOf(id), { time: 1, scale: 0.5 })
      expect(apart(await drawn(stackOf(id), { time: 1, scale: 0.5 }), first).most, id).toBe(0)
      expect(apart(await drawn(stackOf(id), { time: 3.3, scale: 0.5 }), first).mean, id).toBeGreaterThan(0.3)
    }
  })
})

describe('settings that show something while one works', () => {
  it.each(['keyColour', 'keyLight'])('are in the viewer, and never in a finished picture: %s', async (kind) => {
    const plain = await drawn(stackOf(kind, { view: 'picture' }))
    for (const view of ['matte', 'board']) {
      expect(await drawn(stackOf(kind, { view })), `finished, ${view}`).toEqual(plain)
      const seen = await drawn(stackOf(kind, { view }), { inspecting: true })
      expect(apart(seen, plain).most, `viewer, ${view}`).toBeGreaterThan(40)
    }
    const matte = await drawn(stackOf(kind, { view: 'matte' }), { inspecting: true })
    for (let i = 0; i < matte.length; i += 4) expect([matte[i + 1], matte[i + 2]]).toEqual([matte[i], matte[i]])
  })
})
