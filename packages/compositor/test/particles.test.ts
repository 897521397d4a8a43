import { describe, expect, it } from 'vitest'
import { paramsSchema } from '@dusk/timeline'
import { GENERATORS, generatorById, type GeneratedSprite } from '../src/generators/index'
import { atan2Degrees } from '../src/generators/particles/angle'

const kinds = GENERATORS.filter((kind) => kind.family === 'particles')
const SECOND = 705_600_000
const frame = { width: 1920, height: 1080 }
const at = (
  id: string,
  seconds: number,
  settings: Record<string, never | number | string | readonly number[]> = {},
) => {
  const kind = generatorById(id)
  return kind.sprites!(kind.settings(settings as never), seconds * SECOND, frame)
}
const places = (sprites: readonly GeneratedSprite[]) => sprites.map(({ matrix }) => [matrix[4], matrix[5]] as const)

describe('particles', () => {
  it('are of ten kinds with at least twelve presets, all within their settings', () => {
    expect(kinds.length).toBeGreaterThanOrEqual(10)
    const presets = kinds.flatMap((kind) => kind.presets.map((preset) => ({ kind, preset })))
    expect(presets.length).toBeGreaterThanOrEqual(12)
    expect(new Set(presets.map(({ preset }) => preset.name)).size).toBe(presets.length)
    for (const { kind, preset } of presets) expect(() => paramsSchema(kind.params).parse(preset.settings)).not.toThrow()
  })

  it('are the same at the same moment, elsewhere at another, and thrown anew by another seed', () => {
    for (const { id } of kinds) {
      const names = (list: readonly GeneratedSprite[]) =>
        list.map(({ name, matrix, opacity }) => [name, matrix, opacity])
      expect(names(at(id, 3.2)), id).toEqual(names(at(id, 3.2)))
      expect(places(at(id, 3.2)), id).not.toEqual(places(at(id, 3.7)))
      expect(places(at(id, 3.2)), id).not.toEqual(places(at(id, 3.2, { seed: 5 })))
      // There are some at any moment, from the first on.
      for (const time of [0, 1.3, 40, 4000]) expect(at(id, time).length, `${id} at ${time}`).toBeGreaterThan(0)
    }
  })

  it('have numbers that can be drawn, whatever is set', () => {
    for (const { id, params } of kinds)
      for (const edge of ['min', 'max'] as const) {
        const settings = Object.fromEntries(
          params.flatMap((param) => (param.kind === 'number' ? [[param.key, param[edge]]] : [])),
        )
        for (const { matrix, opacity } of at(id, 2.5, settings)) {
          expect(matrix.every(Number.isFinite), id).toBe(true)
          expect(opacity).toBeGreaterThan(0)
          expect(opacity).toBeLessThanOrEqual(1)
        }
      }
  })

  it('are as many as is said, move as fast as is said, and go with wind and gravity', () => {
    const still = { differ: 0, sway: 0, turning: 0, life: 50, spread: 0, from: 'everywhere' }
    expect(at('snow', 9, { amount: 0 })).toEqual([])
    expect(at('motes', 9, { amount: 300 }).length).toBeGreaterThan(at('motes', 9, { amount: 30 }).length * 5)
    // One particle each, a second apart: 100 px/s to the right, 0.6 to 1.4 times as fast. One begun anew is not it.
    const moved = (settings: object) =>
      Array.from({ length: 60 }, (_, seed) => {
        const all = { ...still, amount: 1, speed: 100, direction: 0, life: 12, seed, ...settings } as never
        const [[before], [after]] = [places(at('motes', 5, all)), places(at('motes', 6, all))]
        return before && after ? ([after[0] - before[0], after[1] - before[1]] as const) : ([1e9, 0] as const)
      }).filter(([dx, dy]) => dx > 0 && Math.hypot(dx, dy) < 320)
    for (const [dx, dy] of moved({ wind: 0 })) {
      expect(dx).toBeGreaterThan(59)
      expect(dx).toBeLessThan(141)
      expect(Math.abs(dy)).toBeLessThan(1e-6)
    }
    const mean = (ways: readonly (readonly [number, number])[], k: 0 | 1) =>
      ways.reduce((sum, way) => sum + way[k], 0) / ways.length
    expect(mean(moved({ wind: 80 }), 0) - mean(moved({ wind: 0 }), 0)).toBeGreaterThan(40)
    expect(mean(moved({ gravity: 10, wind: 0 }), 1)).toBeGreaterThan(20)
  })

  it('begin where they are said to', () => {
    const young = { amount: 400, speed: 0, sway: 0, wind: 0, gravity: 0, life: 60 }
    for (const [x, y] of places(at('sparks', 1, { ...young, from: 'point', place: [25, 75] }))) {
      expect(x).toBeCloseTo(480, 0)
      expect(y).toBeCloseTo(810, 0)
    }
    for (const [x, y] of places(at('sparks', 1, { ...young, from: 'line', place: [0, 0], end: [100, 100] })))
      expect(y / 1080).toBeCloseTo(x / 1920, 3)
  })
})

describe('the angle of a direction', () => {
  it('is what it is elsewhere, within a hundredth of a degree', () => {
    for (let degrees = -179; degrees < 180; degrees += 7) {
      const [y, x] = [Math.sin((degrees * Math.PI) / 180), Math.cos((degrees * Math.PI) / 180)]
      expect(Math.abs(atan2Degrees(y, x) - degrees)).toBeLessThan(0.01)
    }
  })
})
