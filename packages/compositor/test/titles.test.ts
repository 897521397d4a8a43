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
  ownFontValue,
  tracksOf,
  type FramePlan,
  type Params,
  type TitleLayer,
} from '@dusk/timeline'
import {
  CanvasKitRenderer,
  Compositor,
  EXTENTS,
  FONTS,
  fontFiles,
  GENERATORS,
  givenHash,
  hanFiles,
  hanLanguage,
  MOVES,
  presetTitle,
  ranks,
  settingsFor,
  TITLE_PRESETS,
  TITLE_SAFE,
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

  it('draws Chinese, Japanese and Korean, each in its own shapes whatever was written before', async () => {
    const chinese = await draw(layer('直角', { size: 300 }))
    const korean = layer('등불 축제', { size: 300 })
    const japanese = layer('港の直角', { size: 300 })
    const before = await draw(japanese)
    for (const words of [korean, japanese]) {
      await room.prepare(plan(words))
      expect(room.measure(words).missing).toEqual([])
    }
    expect(lit(await draw(korean))).toBeGreaterThan(500)
    // Those of the other languages have been read by now.
    expect(await draw(layer('直角', { size: 300 }))).toEqual(chinese)
    expect(await draw(japanese)).toEqual(before)
    const alone = { from: 0, to: 2, style: { colour: '#000000' } }
    const same = await draw(layer('港の直角', { size: 300 }, { runs: [alone] }))
    expect(lit(same)).toBeGreaterThan(500)
    expect(largestDifference(same, chinese)).toBeGreaterThan(100)
  })

  it('finds each letter of a line in several languages, and leaves those of one as they are alone', async () => {
    // Chinese signs that Japanese does not write, kana, hangul and Latin side by side.
    const mixed = layer('港の축제 这们 Quay', { size: 150 })
    await room.prepare(plan(mixed))
    expect(room.measure(mixed).missing).toEqual([])
    const files = (await hanFiles('港の축제 这们')).map(({ name }) => name.slice(0, 11))
    expect(files[0]).toBe('Noto Han jp')
    expect(new Set(files)).toEqual(new Set(['Noto Han jp', 'Noto Han sc', 'Noto Han kr']))
    // Nothing is borrowed that the text's own language has.
    expect((await hanFiles('港の直角')).every(({ name }) => name.startsWith('Noto Han jp'))).toBe(true)
  })

  it('sets sentences from the side that their first letter is read from, or that was chosen', async () => {
    const set = (text: string, script?: string) => draw(layer(text, { size: 200, ...(script ? { script } : {}) }))
    /** Mean height of what is lit in the left and the right third of what is lit, from above. */
    const heights = (pixels: Uint8Array) => {
      const points = Array.from({ length: 480 * 270 }, (_, n) => n).filter((n) => pixels[n * 4]! > 40)
      const across = points.map((n) => n % 480)
      const [left, right] = [Math.min(...across), Math.max(...across)]
      const mean = (from: number, to: number) => {
        const own = points.filter((n) => n % 480 >= from && n % 480 <= to)
        return own.reduce((sum, n) => sum + Math.floor(n / 480), 0) / own.length
      }
      return [mean(left, left + (right - left) / 4), mean(right - (right - left) / 4, right)] as const
    }
    for (const text of ['\u05e9\u05dc\u05d5\u05dd ____', '\u0645\u0631\u062d\u0628\u0627 ____']) {
      const [left, right] = heights(await set(text))
      // What ends the sentence, and lies low, is on the left.
      expect(left, text).toBeGreaterThan(right + 5)
      expect(await set(text, 'rightToLeft')).toEqual(await set(text))
      const [a, b] = heights(await set(text, 'leftToRight'))
      expect(b, text).toBeGreaterThan(a + 5)
    }
    const quay = 'Quay \u05e9\u05dc\u05d5\u05dd ____'
    expect(await set(quay, 'leftToRight')).toEqual(await set(quay))
  })

  it('reads only the slices of signs that a text has', async () => {
    const files = await hanFiles('港の灯り')
    expect(files.length).toBeGreaterThan(0)
    expect(files.length).toBeLessThan(5)
    for (const { path } of files) expect((await readFile(require.resolve(path))).length).toBeGreaterThan(2000)
    expect(await hanFiles('Lantern night')).toEqual([])
    expect(['灯', '灯り', '등불', 'light'].map(hanLanguage)).toEqual(['sc', 'jp', 'kr', null])
  })

  it('sets words in a font file of the person’s own, and in the plainest one where it is lost', async () => {
    const bytes = await readFile(require.resolve(fontFiles('Pixelify Sans')[0]!.path))
    const hash = 'ab'.repeat(32)
    const kept = new Map([[hash, new Uint8Array(bytes)]])
    const own = new CanvasKitRenderer(ck, e, async (path) => {
      const given = givenHash(path)
      return given ? (kept.get(given) ?? null) : new Uint8Array(await readFile(require.resolve(path)))
    })
    const widthOf = async (drawing: CanvasKitRenderer, font: string) => {
      const words = layer('Lantern night', { font, size: 120 })
      await drawing.prepare(plan(words))
      return drawing.measure(words).width
    }
    const shipped = await widthOf(room, 'Pixelify Sans')
    expect(await widthOf(own, ownFontValue({ name: 'Mine', hash }))).toBeCloseTo(shipped, 3)
    const plain = await widthOf(room, FONTS[0]!.family)
    expect(await widthOf(own, ownFontValue({ name: 'Lost', hash: 'cd'.repeat(32) }))).toBeCloseTo(plain, 3)
    expect(plain).not.toBeCloseTo(shipped, 0)
    own.release()
  })

  it('tells how wide the widest word is, and the room of its lines', async () => {
    const words = layer('Donaudampfschifffahrtsgesellschaft at sea', { size: 100, width: 600 })
    await room.prepare(plan(words))
    const { room: lines, widestWord } = room.measure(words)
    expect(lines).toBe(600)
    expect(widestWord).toBeGreaterThan(1200)
    const fitting = layer(words.text, { size: Math.floor((100 * lines) / widestWord), width: 600 })
    expect(room.measure(fitting).widestWord).toBeLessThanOrEqual(601)
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
    expect(room.measure(words).missing).toEqual([{ letter: '\u{13080}', at: words.text.indexOf('\u{13080}') }])
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

  /** A clip made in an empty reel of a size, two seconds in. */
  const showIn = async (made: object, format: { width: number; height: number }, longest = 480) => {
    const empty = createProject('Sample', { ...format, rate: { num: 30, den: 1 } })
    const reelId = Object.keys(empty.reels)[0]!
    const trackId = tracksOf(empty, reelId)[0]!.id
    const command = commandSchema.parse({
      type: 'addGenerated',
      mode: 'free',
      generated: [{ ...made, clipId: crypto.randomUUID(), trackId, start: 0, length: 4 * SECOND }],
    })
    const { project } = applyCommand(empty, command, crypto.randomUUID())
    const scale = longest / Math.max(format.width, format.height)
    const size = { width: Math.round(format.width * scale), height: Math.round(format.height * scale) }
    const wanted = planFrame(project, reelId, 2 * SECOND, size)
    await room.prepare(wanted)
    return { ...size, pixels: compositor.compose(wanted, []).pixels().slice() }
  }
  /** First and last column and row with anything that is not black. */
  const litBounds = ({ pixels, width }: { pixels: Uint8Array; width: number }) => {
    const bounds: [number, number, number, number] = [Infinity, Infinity, -1, -1]
    for (let i = 0; i < pixels.length; i += 4) {
      if (Math.max(pixels[i]!, pixels[i + 1]!, pixels[i + 2]!) < 12) continue
      const [x, y] = [(i / 4) % width, Math.floor(i / 4 / width)]
      bounds[0] = Math.min(bounds[0], x)
      bounds[1] = Math.min(bounds[1], y)
      bounds[2] = Math.max(bounds[2], x)
      bounds[3] = Math.max(bounds[3], y)
    }
    return bounds
  }

  it('draws every ready-made title and every generated picture', async () => {
    const presets = Object.values(TITLE_PRESETS).flat()
    expect(presets.length).toBeGreaterThanOrEqual(40)
    expect(new Set(presets.map((preset) => preset.id)).size).toBe(presets.length)
    const show = async (made: object) => (await showIn(made, HD)).pixels
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

  it('knows the extents of the ready-made titles', async () => {
    for (const preset of Object.values(TITLE_PRESETS).flat()) {
      const words = layer(preset.text, preset.style, { width: 8000, height: 1080, runs: (preset.runs ?? []) as never })
      await room.prepare(plan(words))
      const { width, height } = room.measure(words)
      expect([Math.ceil(width), Math.ceil(height)], preset.id).toEqual(EXTENTS[preset.id])
    }
  })

  it('lays ready-made titles out within the safe area of wide, tall and square reels', async () => {
    const beside: string[] = []
    for (const format of [
      HD,
      { width: 1080, height: 1920 },
      { width: 1080, height: 1080 },
      { width: 320, height: 180 },
    ])
      for (const preset of Object.values(TITLE_PRESETS).flat()) {
        const { title, params } = presetTitle(preset, format)
        // Softness of shadows and light may reach out; words and boxes may not.
        const style = { ...title.style, letterShadow: 0, glow: 0 }
        const still = { ...title, style, in: null, out: null, during: null }
        const shown = await showIn({ kind: 'title', title: still, params }, format)
        const { width: w, height: h } = shown
        const [x0, y0, x1, y1] = litBounds(shown)
        const travels = title.style.travel
        const free = (1 - TITLE_SAFE) / 2
        const out =
          (travels !== 'crawl' && (x0 < free * w - 2 || x1 > (1 - free) * w + 2)) ||
          (travels !== 'roll' && (y0 < free * h - 2 || y1 > (1 - free) * h + 2))
        if (out || x1 < x0) beside.push(`${preset.id} at ${format.width} × ${format.height}: ${[x0, y0, x1, y1]}`)
      }
    expect(beside).toEqual([])
  })

  it('makes shapes as large as the reel asks for', () => {
    const box = GENERATORS.find((kind) => kind.id === 'box')!
    const { width, height } = box.settings(settingsFor(box, {}, { width: 320, height: 180 }))
    expect([width, height]).toEqual([107, 60])
    expect(settingsFor(box, { cornerRadius: 12 }, HD)).toEqual({ cornerRadius: 12 })
    const tall = box.settings(settingsFor(box, { cornerRadius: 12 }, { width: 2160, height: 3840 }))
    expect([tall.width, tall.cornerRadius]).toEqual([1280, 24])
  })

  it('counts down to the end of the clip', () => {
    const countdown = GENERATORS.find((kind) => kind.id === 'countdown')!
    const left = (time: number) => Math.ceil(countdown.frame!({}, time, 5 * SECOND) / 60)
    expect([0, 0.5, 1.001, 4.99].map((second) => left(second * SECOND))).toEqual([5, 5, 4, 1])
  })
})
