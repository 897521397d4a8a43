import { describe, expect, it } from 'vitest'
import { maskPlan, type MaskPlan, type MaskShape } from '@dusk/timeline'
import { MaskPainter } from '../src/masks/maskPainter'
import { engine } from './helpers'

const [W, H] = [200, 100]
const ground = { width: W, height: H, bounds: { x: 0, y: 0, width: W, height: H }, scale: 1 }
const e = await engine()

const shape = (kind: MaskShape['kind'], settings: object = {}, more: Partial<MaskShape> = {}): MaskShape => ({
  ...{ id: crypto.randomUUID(), kind, mode: 'add' },
  settings: { outer: 0, ...settings } as never,
  ...more,
})

/** Coverage of a mask, as a function of a place. */
function drawn(...shapes: MaskShape[]) {
  const painter = new MaskPainter(e)
  const plane = e.heap.bytes(painter.plane(maskPlan({ shapes }, 0), ground), W * H).slice()
  painter.release()
  return (x: number, y: number) => plane[y * W + x]!
}
const areaOf = (cover: ReturnType<typeof drawn>) => {
  let sum = 0
  for (let y = 0; y < H; y++) for (let x = 0; x < W; x++) sum += cover(x, y) / 255
  return sum
}
/** A pen's outline of straight sides, about the position, in percent. */
const path = (...points: [number, number][]) => ({
  path: [{ at: 0, ease: 'both' as const, points: points.map(([x, y]) => [x, y, 0, 0, 0, 0] as never) }],
})

describe('masks', () => {
  it('cover what their shapes cover, to the pixel', () => {
    const box = drawn(shape('rectangle', { size: [50, 50] }))
    expect([box(49, 50), box(50, 50), box(149, 50), box(150, 50), box(100, 24), box(100, 25)]).toEqual([
      ...[0, 255, 255, 0, 0, 255],
    ])
    expect(areaOf(box)).toBeCloseTo(100 * 50, 0)
    expect(areaOf(drawn(shape('ellipse', { size: [50, 50] }))) / (Math.PI * 50 * 25)).toBeCloseTo(1, 2)
    // Turned by a right angle its sides change places.
    const turned = drawn(shape('rectangle', { size: [50, 50], rotation: 90 }))
    expect([turned(100, 2), turned(74, 50), turned(76, 50)]).toEqual([255, 0, 255])
    expect(drawn(shape('rectangle', { size: [50, 50], corner: 20 }))(51, 26)).toBe(0)
  })

  it('are drawn with a pen: straight and bent sides, hollow forms, moved, turned and enlarged', () => {
    const triangle = shape('pen', {}, path([-25, -40], [25, -40], [0, 40]))
    expect(areaOf(drawn(triangle))).toBeCloseTo((100 * 80) / 2, -1)
    expect(drawn({ ...triangle, settings: { outer: 0, scale: 50 } as never })(100, 12)).toBe(0)
    // A circle of four points with handles of 0.5523 of its radius.
    const k = 0.5523
    const points = [
      [0, -40, -20 * k, 0, 20 * k, 0],
      [20, 0, 0, -40 * k, 0, 40 * k],
      [0, 40, 20 * k, 0, -20 * k, 0],
      [-20, 0, 0, 40 * k, 0, -40 * k],
    ] as never
    const circle = drawn(shape('pen', {}, { path: [{ at: 0, ease: 'both', points }] }))
    expect(areaOf(circle) / (Math.PI * 40 * 40)).toBeCloseTo(1, 1)
    expect([circle(100, 50), circle(100, 8), circle(58, 50)]).toEqual([255, 0, 0])
    // Two hundred points, wound twice: covered once.
    const many = Array.from({ length: 200 }, (_, i) => {
      const turn = (i / 100) * 2 * Math.PI
      return [20 * Math.cos(turn), 40 * Math.sin(turn)] as [number, number]
    })
    expect(areaOf(drawn(shape('pen', {}, path(...many)))) / (Math.PI * 40 * 40)).toBeCloseTo(1, 1)
    // Two points enclose nothing.
    expect(areaOf(drawn(shape('pen', {}, path([0, 0], [10, 10]))))).toBe(0)
  })

  it('are soft inside and outside by as many pixels as is said, and grow', () => {
    const soft = drawn(shape('rectangle', { size: [50, 50], inner: 10, outer: 20 }))
    const row = Array.from({ length: 50 }, (_, i) => soft(20 + i, 50))
    expect([row[9], row[10 + 30 + 1]]).toEqual([0, 255])
    for (let i = 1; i < row.length; i++) expect(row[i]!).toBeGreaterThanOrEqual(row[i - 1]!)
    expect(soft(45, 50)).toBeGreaterThan(100)
    expect(soft(45, 50)).toBeLessThan(156)
    for (const kind of ['rectangle', 'pen'] as const) {
      const outline = kind === 'pen' ? path([-25, -25], [25, -25], [25, 25], [-25, 25]) : {}
      const grown = drawn(shape(kind, { ...(kind === 'pen' ? {} : { size: [50, 50] }), grow: 5 }, outline))
      expect([grown(44, 50), grown(46, 50)], kind).toEqual([0, 255])
      const shrunk = drawn(shape(kind, { ...(kind === 'pen' ? {} : { size: [50, 50] }), grow: -5 }, outline))
      expect([shrunk(53, 50), shrunk(56, 50)], kind).toEqual([0, 255])
    }
  })

  it('go from all to nothing as gradients do', () => {
    const straight = drawn(shape('straight', { length: 100 }))
    expect([straight(100, 0), straight(100, 50), straight(100, 99)].map((v) => Math.round(v / 12.75))).toEqual([
      20, 10, 0,
    ])
    const radial = drawn(shape('radial', { size: [50, 100] }))
    expect(radial(100, 50)).toBeGreaterThan(245)
    expect(Math.round(radial(125, 50) / 12.75)).toBe(10)
    expect(radial(151, 50)).toBe(0)
  })

  it('are painted and rubbed out with a brush', () => {
    const strokes = [
      {
        radius: 10,
        erase: false,
        places: [
          [-30, 0],
          [30, 0],
        ] as [number, number][],
      },
      { radius: 5, erase: true, places: [[0, 0]] as [number, number][] },
    ]
    const painted = drawn(shape('brush', {}, { strokes }))
    expect([painted(45, 50), painted(100, 50), painted(107, 50), painted(60, 62)]).toEqual([255, 0, 255, 0])
  })

  it('are added, taken away and cut by each other, and turned round', () => {
    const left = shape('rectangle', { size: [50, 100], position: [25, 50] })
    const middle = (mode: MaskShape['mode']) => shape('rectangle', { size: [50, 100], position: [50, 50] }, { mode })
    const at = (cover: ReturnType<typeof drawn>) => [10, 75, 125, 190].map((x) => cover(x, 50))
    expect(at(drawn(left, middle('add')))).toEqual([255, 255, 255, 0])
    expect(at(drawn(left, middle('subtract')))).toEqual([255, 0, 0, 0])
    expect(at(drawn(left, middle('intersect')))).toEqual([0, 255, 0, 0])
    // What is taken away first is taken from everything.
    expect(at(drawn(middle('subtract')))).toEqual([255, 0, 0, 255])
    expect(at(drawn({ ...left, settings: { ...left.settings, invert: true, opacity: 50 } as never }))).toEqual([
      ...[0, 0, 128, 128],
    ])
  })

  it('move between keyframes, outlines too', () => {
    const key = (at: number, x: number) => ({
      at,
      ease: 'linear' as const,
      points: path([x, -50], [x + 20, -50], [x, 50]).path[0]!.points,
    })
    const moving = shape('pen', {}, { path: [key(0, 0), key(100, 40)] })
    const xs = [-10, 0, 50, 100, 500].map((time) => maskPlan({ shapes: [moving] }, time)[0]!.points![0]![0])
    expect(xs).toEqual([0, 0, 20, 40, 40])
    const other = { ...key(200, 0), points: key(0, 0).points.slice(0, 2) }
    const changed = shape('pen', {}, { path: [key(0, 0), other] })
    expect(maskPlan({ shapes: [changed] }, 150)[0]!.points).toHaveLength(3)
  })

  it('are drawn once while they stay', () => {
    const painter = new MaskPainter(e)
    const plan: MaskPlan = maskPlan({ shapes: [shape('ellipse')] }, 0)
    const first = painter.plane(plan, ground)
    expect(painter.plane(structuredClone(plan), ground)).toBe(first)
    expect(painter.plane(plan, { ...ground, scale: 0.5 })).not.toBe(first)
    painter.release()
  })
})
