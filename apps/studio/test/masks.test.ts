import { describe, expect, it } from 'vitest'
import type { MaskPoint } from '@dusk/timeline'
import MaskLayer from '~/features/effects/masks/MaskLayer.vue'
import {
  newShape,
  pointsOf,
  setAt,
  settingOf,
  thinned,
  togglePathKey,
  withHandle,
  withPointAt,
  withPoints,
} from '~/features/effects/masks/maskEdit'
import { useMasks } from '~/features/effects/masks/masksStore'
import { openDesk } from './tools/desk'
import { dragOn, placed } from './tools/pointer'

const point = (x: number, y: number): MaskPoint => [x, y, 0, 0, 0, 0]
const SQUARE = [point(-20, -20), point(20, -20), point(20, 20), point(-20, 20)]

describe('a pen’s outline', () => {
  it('takes a point into the side that is near, else at its end', () => {
    expect(withPointAt(SQUARE, [0, -20.5], 1).map(([x]) => x)).toEqual([-20, 0, 20, 20, -20])
    expect(withPointAt(SQUARE, [-20, 3], 1)).toHaveLength(5)
    expect(withPointAt(SQUARE, [60, 60], 1).at(-1)).toEqual(point(60, 60))
    expect(withPointAt([point(0, 0)], [10, 0], 1)).toHaveLength(2)
  })

  it('has handles that stay opposite, until one is broken off', () => {
    expect(withHandle(point(10, 10), 'out', [15, 12], false)).toEqual([10, 10, -5, -2, 5, 2])
    expect(withHandle([10, 10, -5, -2, 5, 2], 'in', [8, 14], true)).toEqual([10, 10, -2, 4, 5, 2])
  })

  it('moves once it has keyframes: a change sets one, and going between is straight', () => {
    let pen = withPoints(newShape('pen', true), 0, SQUARE)
    expect(pointsOf(pen, 500)).toEqual(SQUARE)
    pen = togglePathKey(pen, 100)
    const moved = SQUARE.map(([x, y, ...rest]) => [x + 10, y, ...rest] as MaskPoint)
    pen = withPoints(pen, 200, moved)
    expect(pen.path!.map(({ at }) => at)).toEqual([0, 100, 200])
    expect(pointsOf(pen, 100)).toEqual(SQUARE)
    expect(pointsOf(pen, 200)[0]![0]).toBe(-10)
    expect(togglePathKey(pen, 200).path!.map(({ at }) => at)).toEqual([0, 100])
  })

  it('loses its outline with its last side', () => {
    expect(withPoints(withPoints(newShape('pen', true), 0, SQUARE), 0, [point(0, 0)]).path).toEqual([])
  })
})

describe('shapes', () => {
  it('are changed where they are in time', () => {
    const box = setAt(newShape('rectangle', true), 0, { rotation: 10 })
    expect(settingOf(box, 'rotation', 50)).toBe(10)
    const keyed = { ...box, settings: { rotation: { keys: [{ at: 0, value: 0, ease: 'linear' as const }] } } }
    expect(settingOf(setAt(keyed, 100, { rotation: 30 }), 'rotation', 50)).toBe(15)
  })

  it('of a brush keep as few places as tell the same', () => {
    const line = Array.from({ length: 100 }, (_, i) => [i / 10, 0] as [number, number])
    const kept = thinned(line, 1)
    expect(kept.length).toBeLessThan(12)
    expect([kept[0], kept.at(-1)]).toEqual([
      [0, 0],
      [9.9, 0],
    ])
  })
})

describe('the layer over the picture', () => {
  /** A clip that fills the frame, with an effect whose mask is one shape, on a picture of 960 × 540. */
  async function masked(kind: Parameters<typeof newShape>[0]) {
    const d = await openDesk()
    const [picture] = d.pair(0, 120)
    const shape = newShape(kind, true)
    d.project.perform({
      ...{ type: 'addEffects', owner: 'clip', ownerIds: [picture] },
      effects: [{ domain: 'picture', kind: 'blur', settings: {}, strength: 100, mask: { shapes: [shape] } }],
    })
    const effect = () => Object.values(d.project.document!.effects)[0]!
    useMasks().edit(effect().id, shape.id)
    const layer = d.show(MaskLayer, { width: 960, height: 540, scale: 0.5 })
    const surface = placed(layer.find('[data-testid=mask-layer]').element, new DOMRect(0, 0, 960, 540))
    return { ...d, layer, surface, shape: () => effect().mask!.shapes[0]! }
  }

  it('moves, stretches and turns boxes, ellipses and gradients', async () => {
    for (const kind of ['rectangle', 'ellipse', 'radial'] as const) {
      const { surface, layer, shape } = await masked(kind)
      dragOn(surface, [
        [480, 270],
        [576, 324],
      ])
      expect(shape().settings.position, kind).toEqual([60, 60])
      await layer.vm.$nextTick()
      dragOn(layer.find('[aria-label="Right side"]').element, [
        [816, 324],
        [768, 324],
      ])
      expect((shape().settings.size as number[])[0]).toBeCloseTo(40, 0)
      dragOn(layer.find('[aria-label="Turn the mask"]').element, [
        [576, 100],
        [800, 324],
      ])
      expect(shape().settings.rotation).toBeCloseTo(90, 0)
    }
    const { layer, shape } = await masked('straight')
    dragOn(layer.find('[aria-label="Where nothing is covered"]').element, [
      [480, 378],
      [588, 270],
    ])
    expect(shape().settings.rotation).toBeCloseTo(-90, 0)
    expect(shape().settings.length).toBeCloseTo(40, 0)
  })

  it('puts points of a pen, pulls handles out, moves them and takes them out', async () => {
    const { surface, layer, shape } = await masked('pen')
    for (const place of [
      [240, 135],
      [720, 135],
      [720, 405],
    ] as const) {
      dragOn(surface, [place])
      await layer.vm.$nextTick()
    }
    expect(shape().path![0]!.points.map(([x, y]) => [x, y])).toEqual([
      [-25, -25],
      [25, -25],
      [25, 25],
    ])
    // Put and dragged on: its handles come out on both sides.
    dragOn(surface, [
      [240, 405],
      [288, 405],
    ])
    await layer.vm.$nextTick()
    expect(shape().path![0]!.points[3]).toEqual([-25, 25, -5, -0, 5, 0])
    dragOn(layer.find('[aria-label="Point 1 of the outline"]').element, [
      [240, 135],
      [192, 108],
    ])
    expect(shape().path![0]!.points[0]!.slice(0, 2)).toEqual([-30, -30])
    await layer.vm.$nextTick()
    await layer.find('[aria-label="Point 2 of the outline"]').trigger('keydown', { key: 'Delete' })
    expect(shape().path![0]!.points).toHaveLength(3)
  })

  it('paints with the brush, and rubs out with Alt', async () => {
    const { surface, layer, shape } = await masked('brush')
    const stroke = [
      [300, 270],
      [480, 270],
      [600, 270],
    ] as [number, number][]
    dragOn(surface, stroke)
    await layer.vm.$nextTick()
    dragOn(surface, stroke, { altKey: true })
    expect(shape().strokes!.map(({ erase }) => erase)).toEqual([false, true])
    expect(shape().strokes![0]!.places[0]).toEqual([-18.75, 0])
  })
})
