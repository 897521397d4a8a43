import { createRequire } from 'node:module'
import { readFile } from 'node:fs/promises'
import { describe, expect, it } from 'vitest'
import {
  applyCommand,
  commandSchema,
  createProject,
  planFrame,
  resolveParams,
  TITLE_PARAMS,
  tracksOf,
  type FramePlan,
  type Params,
  type TitleLayer,
} from '@dusk/timeline'
import {
  CanvasKitRenderer,
  Compositor,
  FONTS,
  fontFiles,
  GENERATORS,
  MOVES,
  presetTitle,
  ranks,
  TITLE_PRESETS,
  unitProgress,
  unitsOf,
} from '../src/index'
import { engine, largestDifference } from './helpers'

const require = createRequire(import.meta.url)
const HD = { width: 1920, height: 1080 }
const SECOND = 705_600_000

describe('parts of a title', () => {
  it('are letters as people count them, words, and lines as they were set', () => {
    const of = (text: string, unit: 'letter' | 'word') =>
      unitsOf(text, unit, []).map(({ from, to }) => text.slice(from, to))
    expect(of('né 🏮👍🏽', 'letter')).toEqual(['n', 'é', '🏮', '👍🏽'])
    expect(of('👩‍👧‍👦🇳🇴', 'letter')).toEqual(['👩‍👧‍👦', '🇳🇴'])
    expect(of('  out  with the\ntide ', 'word')).toEqual(['out', 'with', 'the', 'tide'])
    const lines = [
      { from: 0, to: 4 },
      { from: 5, to: 5 },
      { from: 6, to: 9 },
    ]
    expect(unitsOf('Two\n\nrow', 'line', lines)).toHaveLength(2)
    expect(unitsOf('', 'letter', [])).toEqual([{ from: 0, to: 0 }])
  })

  it('become larger ones where there would be too many', () => {
    const text = 'lantern '.repeat(60)
    expect(unitsOf(text, 'letter', [])).toHaveLength(60)
  })

  it('take their turns in the order asked for', () => {
    expect(ranks(4, 'forward')).toEqual([0, 1, 2, 3])
    expect(ranks(4, 'backward')).toEqual([3, 2, 1, 0])
    expect(ranks(5, 'outward')[2]).toBe(0)
    expect(ranks(5, 'inward')[2]).toBe(4)
    expect([...ranks(9, 'random')].sort((a, b) => a - b)).toEqual([0, 1, 2, 3, 4, 5, 6, 7, 8])
    expect(ranks(9, 'random')).toEqual(ranks(9, 'random'))
  })

  it('move one after the other, all at once, or in between, and are all done at the end', () => {
    const at = (progress: number, overlap: number) =>
      [0, 1, 2].map((rank) => Math.round(unitProgress(progress, rank, 3, overlap) * 100))
    expect(at(0.5, 0)).toEqual([100, 50, 0])
    expect(at(0.5, 100)).toEqual([50, 50, 50])
    expect(at(0.5, 50)).toEqual([100, 50, 0])
    for (const overlap of [0, 30, 100]) expect(at(1, overlap)).toEqual([100, 100, 100])
  })
})

describe('moves', () => {
  it('end at rest: nothing is left of them when a title has come', () => {
    for (const kind of MOVES.filter((entry) => entry.use === 'pass')) {
      const { x = 0, y = 0, size = 1, sizeX = 1, sizeY = 1, turn = 0, opacity = 1 } = kind.at(1, { index: 2, count: 7 })
      for (const [is, rest] of [
        [x, 0],
        [y, 0],
        [size, 1],
        [sizeX, 1],
        [sizeY, 1],
        [turn, 0],
        [opacity, 1],
      ])
        expect(is, kind.id).toBeCloseTo(rest!, 6)
      const begin = kind.at(0, { index: 2, count: 7 })
      expect(begin.opacity ?? 1, `${kind.id} is not there at first`).toBeLessThan(0.1)
    }
  })

  it('that run while a title is shown come back to where they began', () => {
    for (const kind of MOVES.filter((entry) => entry.use === 'stay' && entry.id !== 'tremble')) {
      const [a, b] = [kind.at(0.25, { index: 3, count: 7 }), kind.at(1.25, { index: 3, count: 7 })]
      for (const key of Object.keys(a) as (keyof typeof a)[]) expect(b[key], kind.id).toBeCloseTo(a[key]!, 6)
    }
    expect(MOVES.length).toBeGreaterThanOrEqual(20)
  })
})

describe('the drawing room', async () => {
  const e = await engine()
  const init = require('canvaskit-wasm/bin/full/canvaskit.js') as (typeof import('canvaskit-wasm'))['default']
  const ck = await init({ locateFile: (name) => require.resolve(`canvaskit-wasm/bin/full/${name}`) })
  const room = new CanvasKitRenderer(ck, e, async (path) => new Uint8Array(await readFile(require.resolve(path))))
  const compositor = new Compositor(e)
  compositor.drawing = room
  const layer = (text: string, style: Params = {}, rest: Partial<TitleLayer> = {}): TitleLayer => ({
    kind: 'title',
    text,
    style: resolveParams(TITLE_PARAMS, style, 0),
    runs: [],
    moves: [],
    travel: 0,
    ...HD,
    matrix: [1, 0, 0, 1, 0, 0],
    opacity: 1,
    alpha: true,
    ...rest,
  })
  const plan = (...layers: TitleLayer[]): FramePlan => ({
    width: 480,
    height: 270,
    background: '#000000',
    layers: layers.map((entry) => ({ ...entry, matrix: [0.25, 0, 0, 0.25, 0, 0] })),
    passThrough: false,
  })
  const draw = async (...layers: TitleLayer[]) => {
    const wanted = plan(...layers)
    await room.prepare(wanted)
    return compositor.compose(wanted, []).pixels().slice()
  }
  const lit = (pixels: Uint8Array) => pixels.reduce((n, value, i) => n + (i % 4 === 0 && value > 40 ? 1 : 0), 0)

  it('has a file for every font it offers, and reads it', async () => {
    expect(FONTS.length).toBeGreaterThanOrEqual(24)
    for (const font of FONTS)
      for (const { path } of fontFiles(font.family))
        expect((await readFile(require.resolve(path))).length).toBeGreaterThan(2000)
  })

  it('draws what stays once and lays it down again', async () => {
    const one = layer('Lantern night')
    await draw(one)
    const [first] = room.title(one, 0.25)
    const [again] = room.title({ ...one, matrix: [2, 0, 0, 2, 9, 9], opacity: 0.5 }, 0.25)
    expect(again!.picture).toBe(first!.picture)
    const [other] = room.title(layer('Lantern nights'), 0.25)
    expect(other!.picture).not.toBe(first!.picture)
  })

  it('sets words whose moves have ended just as it sets them without any', async () => {
    const still = await draw(layer('Lantern night', { size: 200 }))
    const move = {
      phase: 'in' as const,
      move: 'rise',
      unit: 'word' as const,
      order: 'forward' as const,
      overlap: 50,
      settings: {},
      progress: 1,
    }
    const moved = await draw(layer('Lantern night', { size: 200 }, { moves: [move] }))
    expect(lit(still)).toBeGreaterThan(500)
    expect(largestDifference(still, moved)).toBeLessThanOrEqual(2)
    const halfway = await draw(layer('Lantern night', { size: 200 }, { moves: [{ ...move, progress: 0.5 }] }))
    expect(largestDifference(still, halfway)).toBeGreaterThan(100)
    const before = await draw(layer('Lantern night', { size: 200 }, { moves: [{ ...move, progress: 0 }] }))
    expect(lit(before)).toBe(0)
  })

  it('gives runs their own look and leaves the rest', async () => {
    const red = { from: 0, to: 7, style: { colour: '#ff0000' } }
    const pixels = await draw(layer('Lantern night', { size: 200, colour: '#00ff00' }, { runs: [red] }))
    const sides = [0, 0]
    for (let y = 0; y < 270; y++)
      for (let x = 0; x < 480; x++) {
        const i = (y * 480 + x) * 4
        if (pixels[i]! > 150 && pixels[i + 1]! < 60) sides[0]! += x < 260 ? 1 : -1
        if (pixels[i + 1]! > 150 && pixels[i]! < 60) sides[1]! += x > 260 ? 1 : -1
      }
    expect(Math.min(...sides)).toBeGreaterThan(100)
  })

  it('breaks lines at the same places whatever the size of the output', async () => {
    const text = 'They float out with the tide, one after the other, until the last light is gone behind the pier.'
    const long = layer(text, { size: 90, width: 900 })
    await room.prepare(plan(long))
    const { height } = room.measure(long)
    const small = room.title(long, 0.25)[0]!
    const large = room.title(long, 1)[0]!
    expect(height).toBeGreaterThan(250)
    expect((small.picture.height * 4) / large.picture.height).toBeCloseTo(1, 1)
  })

  it('finds letters by place and places by letter', async () => {
    const words = layer('Lantern night', { size: 120 })
    await room.prepare(plan(words))
    for (const index of [1, 4, 9]) {
      const [rect] = room.rangeRects(words, index, index + 1)
      expect(room.letterAt(words, rect!.x + 2, rect!.y + rect!.height / 2)).toBe(index)
    }
    const [caret] = room.rangeRects(words, 13, 13)
    const [last] = room.rangeRects(words, 12, 13)
    expect(caret!.x).toBeCloseTo(last!.x + last!.width, 1)
    const [start] = room.rangeRects(layer('', { size: 120 }), 0, 0)
    expect(start!.height).toBeGreaterThan(50)
    // Without a letter a title still has its place: no width, in the middle of the frame.
    const { left, width, height } = room.measure(layer('', { size: 120 }))
    expect(left).toBe(layer('').width / 2)
    expect(width).toBe(0)
    expect(height).toBeGreaterThan(50)
  })

  it('draws right-to-left scripts and emoji, and names the letters that no font has', async () => {
    const words = layer('שלום مرحبا 🏮 \u{13080}')
    const pixels = await draw(words)
    expect(lit(pixels)).toBeGreaterThan(200)
    expect(room.measure(words).missing).toEqual(['\u{13080}'])
    const [first] = room.rangeRects(words, 0, 1)
    const [second] = room.rangeRects(words, 1, 2)
    expect(first!.x).toBeGreaterThan(second!.x)
  })

  it('takes ten thousand letters, nothing at all, and a rolling text longer than any picture', async () => {
    const long = 'lanterns '.repeat(1111)
    expect(lit(await draw(layer(long, { size: 20 })))).toBeGreaterThan(500)
    expect(lit(await draw(layer('')))).toBe(0)
    expect(lit(await draw(layer('   \n ')))).toBe(0)
    const roll = layer('Ada Merrow\n'.repeat(400), { travel: 'roll', size: 60 })
    const [early, late] = [await draw({ ...roll, travel: 0.3 }), await draw({ ...roll, travel: 0.31 })]
    expect(lit(early)).toBeGreaterThan(500)
    expect(largestDifference(early, late)).toBeGreaterThan(50)
    expect(lit(await draw({ ...roll, travel: 1 }))).toBe(0)
    // Only what is in the frame is laid down.
    expect(room.title({ ...roll, travel: 0.5 }, 0.25).length).toBeLessThan(40)
  })

  it('draws every ready-made title and every generated picture', async () => {
    const presets = Object.values(TITLE_PRESETS).flat()
    expect(presets.length).toBeGreaterThanOrEqual(40)
    expect(new Set(presets.map((preset) => preset.id)).size).toBe(presets.length)
    const empty = createProject('t', { ...HD, rate: { num: 30, den: 1 } })
    const reelId = Object.keys(empty.reels)[0]!
    const trackId = tracksOf(empty, reelId)[0]!.id
    const show = async (made: object) => {
      const command = commandSchema.parse({
        type: 'addGenerated',
        mode: 'free',
        generated: [{ ...made, clipId: crypto.randomUUID(), trackId, start: 0, length: 4 * SECOND }],
      })
      const { project } = applyCommand(empty, command, crypto.randomUUID())
      const wanted = planFrame(project, reelId, 2 * SECOND, { width: 480, height: 270 })
      await room.prepare(wanted)
      return compositor.compose(wanted, []).pixels().slice()
    }
    for (const preset of presets) {
      const { title, params } = presetTitle(preset, HD)
      expect(
        title.runs.every((run) => run.to <= title.text.length),
        preset.id,
      ).toBe(true)
      if (title.style.travel) continue
      expect(lit(await show({ kind: 'title', title, params })), preset.id).toBeGreaterThan(20)
    }
    const ground = await show({ kind: 'generator', generator: 'plain', settings: {} })
    for (const kind of GENERATORS)
      if (kind.id !== 'spotlight' && kind.id !== 'plain')
        expect(
          largestDifference(await show({ kind: 'generator', generator: kind.id, settings: {} }), ground),
          kind.id,
        ).toBeGreaterThan(20)
  })

  it('counts down to the end of the clip', () => {
    const countdown = GENERATORS.find((kind) => kind.id === 'countdown')!
    const left = (time: number) => Math.ceil(countdown.frame!({}, time, 5 * SECOND) / 60)
    expect([0, 0.5, 1.001, 4.99].map((second) => left(second * SECOND))).toEqual([5, 5, 4, 1])
  })
})
