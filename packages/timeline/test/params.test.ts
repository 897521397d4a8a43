import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import type { CommandRefused } from '../src/index'
import {
  along,
  CLIP_PARAMS,
  clipParamsSchema,
  easeAt,
  keyTimes,
  moveKey,
  paramAt,
  planFrame,
  putKey,
  removeKey,
  valueAt,
  type Key,
  type PictureLayer,
  type Point,
} from '../src/index'
import { CARD, desk, f, run, uuid } from './helpers'

const key = <T extends number | string | boolean | Point>(
  at: number,
  value: T,
  ease: Key['ease'] = 'linear',
): Key<T> => ({ at, value, ease })

describe('eases', () => {
  it('begin at nothing, end at all, and lean the way they say', () => {
    for (const ease of ['linear', 'in', 'out', 'both'] as const)
      expect([easeAt(ease, 0), easeAt(ease, 1)]).toEqual([0, 1])
    expect(easeAt('in', 0.25)).toBeLessThan(0.15)
    expect(easeAt('out', 0.25)).toBeGreaterThan(0.35)
    expect(easeAt('both', 0.5)).toBeCloseTo(0.5, 9)
    expect([easeAt('hold', 0.99), easeAt('hold', 1)]).toEqual([0, 1])
  })

  it('follow their cubic: values of CSS ease-in-out and of a curve that overshoots', () => {
    // cubic-bezier(0.42, 0, 0.58, 1) at t = 0.2, worked out by hand with bisection to 1e-6.
    expect(easeAt('both', 0.2)).toBeCloseTo(0.0816, 3)
    const peak = Math.max(...Array.from({ length: 99 }, (_, i) => easeAt([0.3, 1.8, 0.6, 1], (i + 1) / 100)))
    expect(peak).toBeGreaterThan(1.05)
  })

  it('rise steadily unless their curve turns back', () => {
    fc.assert(
      fc.property(
        fc.tuple(
          fc.double({ min: 0, max: 1, noNaN: true }),
          fc.double({ min: 0, max: 1, noNaN: true }),
          fc.double({ min: 0, max: 1, noNaN: true }),
          fc.double({ min: 0, max: 1, noNaN: true }),
        ),
        (curve) => {
          let before = 0
          for (let i = 1; i <= 20; i++) {
            const now = easeAt(curve, i / 20)
            expect(now).toBeGreaterThanOrEqual(before - 1e-9)
            before = now
          }
        },
      ),
    )
  })
})

describe('values with keyframes', () => {
  const size = { keys: [key(0, 100), key(100, 200, 'hold'), key(200, 50)] }

  it('hold before the first and after the last, go between, and jump where they hold', () => {
    expect([-50, 0, 50, 100, 199, 200, 900].map((at) => valueAt(size, at))).toEqual([100, 100, 150, 200, 200, 50, 50])
  })

  it('mix colours by channel and switch words at their keyframe', () => {
    expect(valueAt({ keys: [key(0, '#000000'), key(10, '#ff8040')] }, 5)).toBe('#804020')
    expect([4, 10].map((at) => valueAt({ keys: [key(0, true), key(10, false)] }, at))).toEqual([true, false])
  })

  it('go along a bent path at an even pace', () => {
    const a: Key<Point> = { at: 0, value: [0, 0], ease: 'linear', bend: [0, 300] }
    const b: Key<Point> = { at: 100, value: [400, 0], ease: 'linear' }
    const points = Array.from({ length: 11 }, (_, i) => along(a, b, i / 10))
    const steps = points.slice(1).map(([x, y], i) => Math.hypot(x - points[i]![0], y - points[i]![1]))
    expect(Math.max(...steps) / Math.min(...steps)).toBeLessThan(1.1)
    expect(points[5]![1]).toBeGreaterThan(60)
    expect(points[10]).toEqual([400, 0])
  })

  it('gain, lose and move keyframes one at a time', () => {
    const one = putKey(100, 50, 120)
    expect(one).toEqual({ keys: [key(50, 120, 'both')] })
    const two = putKey(one, 10, 80)
    expect(keyTimes({ size: two })).toEqual([10, 50])
    expect(valueAt(putKey(two, 10, 90), 10)).toBe(90)
    expect(keyTimes({ size: moveKey(two, 10, 70) })).toEqual([50, 70])
    // One that is moved onto another takes its place.
    expect(valueAt(moveKey(two, 10, 50), 50)).toBe(80)
    expect(removeKey(removeKey(two, 10), 50)).toBe(120)
  })
})

describe('settings of clips', () => {
  it('take what is in range and refuse the rest with the name of the setting', () => {
    const d = desk()
    const place = {
      clipId: uuid(1),
      trackId: d.picture1.id,
      assetId: CARD,
      stream: null,
      start: 0,
      length: f(30),
      source: 0,
      link: null,
    }
    const project = run(d.project, { type: 'place', mode: 'free', pieces: [place] })
    const next = run(project, { type: 'setParams', clipIds: [uuid(1)], set: { size: 50, shadow: 40 } })
    expect(next.clips[uuid(1)]!.params).toEqual({ size: 50, shadow: 40 })
    expect(run(next, { type: 'setParams', clipIds: [uuid(1)], set: { size: null } }).clips[uuid(1)]!.params).toEqual({
      shadow: 40,
    })
    const refused = (set: object) => {
      try {
        run(project, { type: 'setParams', clipIds: [uuid(1)], set } as never)
      } catch (error) {
        return (error as CommandRefused).message
      }
    }
    expect(refused({ size: -5 })).toMatch(/^size/)
    expect(refused({ blend: 'glue' })).toMatch(/^blend/)
    expect(refused({ sparkle: 1 })).toMatch(/sparkle/)
    expect(refused({ blend: { keys: [{ at: 0, value: 'screen', ease: 'hold' }] } })).toMatch(/^blend/)
    expect(refused({ size: Number.NaN })).toBeDefined()
    expect(
      refused({
        size: {
          keys: [
            { at: 9, value: 50, ease: 'in' },
            { at: 3, value: 50, ease: 'in' },
          ],
        },
      }),
    ).toBeDefined()
  })

  it('are held within range when they are read, whatever a file says', () => {
    const opacity = CLIP_PARAMS.find((param) => param.key === 'opacity')!
    expect([
      paramAt(opacity, { opacity: 900 }, 0),
      paramAt(opacity, { opacity: 'x' }, 0),
      paramAt(opacity, {}, 0),
    ]).toEqual([100, 100, 100])
    for (const param of CLIP_PARAMS)
      expect(clipParamsSchema.safeParse({ [param.key]: param.default }).success).toBe(true)
  })

  it('move the picture: keyframes stay on its frames when the clip is trimmed, split and moved', () => {
    const d = desk()
    const place = {
      clipId: uuid(1),
      trackId: d.picture1.id,
      assetId: CARD,
      stream: null,
      start: 0,
      length: f(60),
      source: 0,
      link: null,
    }
    const position = { keys: [key<Point>(0, [0, 0]), key<Point>(f(60), [600, 0])] }
    let project = run(d.project, { type: 'place', mode: 'free', pieces: [place] })
    project = run(project, { type: 'setParams', clipIds: [uuid(1)], set: { position: position as never } })
    const x = (p: typeof project, at: number) =>
      (planFrame(p, d.reelId, at, { width: 1920, height: 1080 }).layers[0] as PictureLayer).matrix[4]
    expect([x(project, 0), x(project, f(30)), x(project, f(45))]).toEqual([240, 540, 690])
    const trimmed = run(project, { type: 'trim', clipId: uuid(1), edge: 'start', to: f(20) })
    expect(x(trimmed, f(45))).toBe(690)
    const split = run(project, { type: 'split', reelId: d.reelId, at: f(30), clipIds: [uuid(1)] })
    expect([x(split, f(15)), x(split, f(45))]).toEqual([390, 690])
    const moved = run(project, { type: 'move', clipIds: [uuid(1)], by: f(100), mode: 'free' })
    expect(x(moved, f(145))).toBe(690)
  })

  it('of a whole track move everything on it', () => {
    const d = desk()
    const place = {
      clipId: uuid(1),
      trackId: d.picture1.id,
      assetId: CARD,
      stream: null,
      start: 0,
      length: f(60),
      source: 0,
      link: null,
    }
    let project = run(d.project, { type: 'place', mode: 'free', pieces: [place] })
    project = run(project, { type: 'setTrackParams', trackId: d.picture1.id, set: { size: 50, opacity: 40 } })
    const layer = planFrame(project, d.reelId, 0, { width: 1920, height: 1080 }).layers[0] as PictureLayer
    expect(layer.matrix.map((value) => Math.round(value * 1000) / 1000)).toEqual([0.9, 0, 0, 0.9, 600, 270])
    expect(layer.opacity).toBeCloseTo(0.4, 4)
    expect(() => run(project, { type: 'setTrackParams', trackId: d.picture1.id, set: { cornerRadius: 4 } })).toThrow(
      /cornerRadius/,
    )
  })

  it('motionBlur only what moves', () => {
    const d = desk()
    const place = {
      clipId: uuid(1),
      trackId: d.picture1.id,
      assetId: CARD,
      stream: null,
      start: 0,
      length: f(60),
      source: 0,
      link: null,
    }
    const still = run(run(d.project, { type: 'place', mode: 'free', pieces: [place] }), {
      type: 'setParams',
      clipIds: [uuid(1)],
      set: { shutterAngle: 180, shutterSamples: 4 },
    })
    const motionBlur = (p: typeof still) =>
      planFrame(p, d.reelId, f(30), { width: 1920, height: 1080 }).layers[0] as PictureLayer
    expect(motionBlur(still).motionBlur).toBeUndefined()
    const keys = [key<Point>(0, [0, 0]), key<Point>(f(60), [600, 0])]
    const moving = motionBlur(
      run(still, { type: 'setParams', clipIds: [uuid(1)], set: { position: { keys } as never } }),
    )
    // Ten pixels a frame, open for half of it: four places within five pixels around the middle.
    expect(moving.motionBlur!.map((m) => m[4])).toEqual([538.125, 539.375, 540.625, 541.875])
  })
})
