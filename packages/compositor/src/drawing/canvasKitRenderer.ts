import type { CanvasKit } from 'canvaskit-wasm'
import {
  multiply,
  rotation,
  roundMatrix,
  scaling,
  translation,
  type FramePlan,
  type GeneratorLayer,
  type Matrix,
  type TitleLayer,
  type TitleMovePlan,
  type Value,
} from '@dusk/timeline'
import type { Engine } from '../engine'
import type { GeneratorKind } from '../generators/define'
import { generatorById } from '../generators/index'
import { moveById } from '../titles/moves'
import { ranks, unitProgress, unitsOf, type Unit } from '../titles/units'
import { FontRegistry } from './fontRegistry'
import type { FontReader } from './fonts'
import { paintBox, paintLetters, titleMargin } from './paintTitle'
import {
  generatorsOf,
  titlesOf,
  type VectorRenderer,
  type Rect,
  type Sprite,
  type TitleMeasure,
} from './vectorRenderer'
import { SpriteStore, type Piece } from './spriteStore'
import { setTitle, type TitleLayout } from './titleLayout'

/** Steps in which a picture that grows is drawn anew: a quarter of a doubling. Between them it is scaled. */
function drawnScale(scale: number): number {
  const exact = Math.round(scale * 1024) / 1024
  // The usual sizes are drawn as they are, so that letters are as sharp as can be.
  if ([1, 0.5, 0.25, 2 / 3, 1 / 3, 4 / 3, 2].some((usual) => Math.abs(exact - usual) < 0.002)) return scale
  let step = 1 / 64
  while (step < scale - 1e-6) step *= 1.189_207_115
  return step
}

/** A drawing room on CanvasKit: one for each engine. */
export class CanvasKitRenderer implements VectorRenderer {
  private readonly fonts: FontRegistry
  private readonly sprites: SpriteStore
  private readonly layouts = new Map<string, { rect: Rect; lines: Unit[]; units: Map<string, Rect> }>()

  constructor(
    private readonly ck: CanvasKit,
    engine: Engine,
    read: FontReader,
  ) {
    this.fonts = new FontRegistry(ck, read)
    this.sprites = new SpriteStore(ck, engine)
  }

  async prepare(plan: FramePlan): Promise<void> {
    for (const layer of titlesOf(plan)) {
      const families = new Set([
        String(layer.style.font),
        ...layer.runs.map((run) => String(run.style.font ?? layer.style.font)),
      ])
      await this.fonts.need(families, layer.text)
    }
    for (const layer of generatorsOf(plan)) {
      const { text } = generatorById(layer.generator)
      if (text) await this.fonts.need([], text(layer.settings))
    }
  }

  title(layer: TitleLayer, scale: number): Sprite[] {
    if (!layer.text.trim()) return []
    const drawn = drawnScale(scale)
    // What is drawn depends on none of these; where it goes does.
    const still: TitleLayer = { ...layer, moves: [], travel: 0.5, matrix: [1, 0, 0, 1, 0, 0], opacity: 1 }
    const { text, style, runs, width, height } = still
    const name = JSON.stringify([text, style, runs, width, height])
    const layout = this.layoutOf(name, still)
    const [dx, dy] = this.travelled(layer, layout.rect)
    const margin = titleMargin(style)
    const out: Sprite[] = []
    const push = (piece: Piece | null, matrix: Matrix, opacity: number) => {
      if (piece)
        out.push({
          picture: piece.picture,
          matrix: multiply(matrix, [1 / piece.scale, 0, 0, 1 / piece.scale, piece.x, piece.y]),
          opacity,
        })
    }
    const grown = (rect: Rect): Rect => ({
      x: rect.x - margin,
      y: rect.y - margin,
      width: rect.width + 2 * margin,
      height: rect.height + 2 * margin,
    })
    const moves = layer.moves.filter((move) => moveById(move.move))
    const rolling = style.travel !== 'none'
    const size = style.size as number

    if (moves.length === 0 && !rolling) {
      const piece = this.sprites.get(`${name} all ${drawn}`, grown(layout.rect), drawn, (canvas) => {
        paintBox(this.ck, canvas, still, boxOf(layout.rect))
        paintLetters(this.ck, this.fonts, canvas, still)
      })
      push(piece, [1, 0, 0, 1, 0, 0], 1)
      return out
    }
    if ((style.box as number) > 0) {
      const piece = this.sprites.get(`${name} box ${drawn}`, grown(layout.rect), drawn, (canvas) =>
        paintBox(this.ck, canvas, still, boxOf(layout.rect)),
      )
      // The box comes and goes with the words as a whole.
      const passing = moves.find((move) => move.phase !== 'during')
      push(piece, translation(dx, dy), passing ? Math.min(1, presence(passing) * 2) : 1)
    }
    const finest = moves.map((move) => move.unit).sort((a, b) => ORDER.indexOf(a) - ORDER.indexOf(b))[0] ?? 'line'
    const units = unitsOf(text, rolling && finest === 'whole' ? 'line' : finest, layout.lines)
    const posed = moves.map((move) => ({
      move,
      kind: moveById(move.move)!,
      units: unitsOf(text, move.unit, layout.lines),
    }))
    const order = posed.map(({ move, units: own }) => ranks(own.length, move.order))
    for (const unit of units) {
      const rect = this.unitRect(layout, still, unit)
      if (!rect) continue
      const [cx, cy] = [rect.x + rect.width / 2, rect.y + rect.height / 2]
      let matrix: Matrix = translation(dx, dy)
      let opacity = 1
      for (const [i, { move, kind, units: own }] of posed.entries()) {
        const index = own.findIndex((part) => part.from <= unit.from && part.to >= unit.to)
        if (index < 0) continue
        const part = { index, count: own.length }
        const t =
          move.phase === 'during'
            ? move.progress
            : unitProgress(
                presence(move),
                move.phase === 'in' ? order[i]![index]! : own.length - 1 - order[i]![index]!,
                own.length,
                move.overlap,
              )
        const pose = kind.at(t, part)
        // About the middle of what moves together, which may be more than this piece of it.
        const whole =
          own[index]!.from === unit.from && own[index]!.to === unit.to
            ? rect
            : (this.unitRect(layout, still, own[index]!) ?? rect)
        const [mx, my] = whole === rect ? [cx, cy] : [whole.x + whole.width / 2, whole.y + whole.height / 2]
        const spread = scaling((pose.size ?? 1) * (pose.sizeX ?? 1), (pose.size ?? 1) * (pose.sizeY ?? 1))
        const about = multiply(
          multiply(
            translation(mx + (pose.x ?? 0) * size, my + (pose.y ?? 0) * size),
            multiply(rotation(pose.turn ?? 0), spread),
          ),
          translation(-mx, -my),
        )
        matrix = multiply(matrix, about)
        opacity *= Math.min(1, Math.max(0, pose.opacity ?? 1))
      }
      if (opacity <= 0) continue
      const box = grown(rect)
      // Rolling words that are out of the frame are neither drawn nor kept.
      if (
        rolling &&
        (box.y + dy > height || box.y + box.height + dy < 0 || box.x + dx > width || box.x + box.width + dx < 0)
      )
        continue
      const piece = this.sprites.get(`${name} ${unit.from}-${unit.to} ${drawn}`, box, drawn, (canvas) =>
        paintLetters(this.ck, this.fonts, canvas, still, [unit.from, unit.to]),
      )
      push(piece, matrix, opacity)
    }
    return out
  }

  /** How far rolling and crawling words are from where they were set. */
  private travelled(layer: TitleLayer, rect: Rect): [number, number] {
    if (layer.style.travel === 'roll') return [0, layer.height - layer.travel * (layer.height + rect.height) - rect.y]
    if (layer.style.travel === 'crawl') return [layer.width - layer.travel * (layer.width + rect.width) - rect.x, 0]
    return [0, 0]
  }

  private layoutOf(name: string, layer: TitleLayer) {
    let known = this.layouts.get(name)
    if (!known) {
      const { paragraph, left, top, width, height } = setTitle(this.ck, this.fonts, layer)
      const lines = paragraph.getLineMetrics().map(({ startIndex, endIndex }) => ({ from: startIndex, to: endIndex }))
      paragraph.delete()
      known = { rect: { x: left, y: top, width, height }, lines, units: new Map() }
      this.layouts.set(name, known)
      if (this.layouts.size > 40) this.layouts.delete(this.layouts.keys().next().value!)
    }
    return known
  }

  private unitRect(layout: { units: Map<string, Rect> }, layer: TitleLayer, unit: Unit): Rect | null {
    const key = `${unit.from} ${unit.to}`
    let rect = layout.units.get(key)
    if (!rect) {
      rect = union(this.rangeRects(layer, unit.from, unit.to)) ?? { x: 0, y: 0, width: 0, height: 0 }
      layout.units.set(key, rect)
    }
    return rect.width > 0 ? rect : null
  }

  generator(layer: GeneratorLayer, scale: number): Sprite[] {
    const kind = generatorById(layer.generator)
    const drawn = drawnScale(scale)
    const settings = kind.settings(layer.settings)
    if (kind.sprites) return this.many(layer, kind, settings, drawn)
    const frame = kind.frame?.(settings, layer.time, layer.length) ?? 0
    const name = JSON.stringify([layer.generator, settings, layer.width, layer.height, frame, drawn])
    const box = kind.box?.(settings, layer) ?? { x: 0, y: 0, width: layer.width, height: layer.height }
    const piece = this.sprites.get(name, box, drawn, (canvas) =>
      kind.draw(
        {
          ck: this.ck,
          canvas,
          fonts: this.fonts,
          width: layer.width,
          height: layer.height,
          frame,
          length: layer.length,
        },
        settings,
      ),
    )
    return piece
      ? [{ picture: piece.picture, matrix: [1 / piece.scale, 0, 0, 1 / piece.scale, piece.x, piece.y], opacity: 1 }]
      : []
  }

  /** Small pieces, each drawn once however often it is laid down. */
  private many(layer: GeneratorLayer, kind: GeneratorKind, settings: Record<string, Value>, drawn: number): Sprite[] {
    return kind.sprites!(settings, layer.time, layer).flatMap(({ name, side, draw, matrix, opacity }) => {
      const box = { x: -side / 2, y: -side / 2, width: side, height: side }
      const piece = this.sprites.get(`${kind.id} ${name} ${drawn}`, box, drawn, (canvas) =>
        draw({
          ...{ ck: this.ck, canvas, fonts: this.fonts, frame: 0, length: layer.length },
          width: side,
          height: side,
        }),
      )
      if (!piece) return []
      const place: Matrix = [1 / piece.scale, 0, 0, 1 / piece.scale, piece.x, piece.y]
      return [{ picture: piece.picture, matrix: roundMatrix(multiply(matrix, place)), opacity }]
    })
  }

  measure(layer: TitleLayer): TitleMeasure {
    const { paragraph, left, top, width, height, room, widestWord } = setTitle(this.ck, this.fonts, layer)
    // Words that crawl are one line, each break two blanks.
    const breaks = layer.style.travel === 'crawl' ? 2 : 1
    // Glyph 0 is the box that a font draws for what it does not have. Offsets count bytes of UTF-8.
    const letters = new Map<number, { letter: string; at: number }>()
    let bytes = 0
    let at = 0
    for (const letter of layer.text) {
      letters.set(bytes, { letter, at })
      at += letter.length
      const code = letter.codePointAt(0)!
      bytes += letter === '\n' ? breaks : code < 0x80 ? 1 : code < 0x800 ? 2 : code < 0x10000 ? 3 : 4
    }
    const found = new Map<number, { letter: string; at: number }>()
    for (const { runs } of paragraph.getShapedLines())
      for (const { glyphs, offsets } of runs)
        for (const [i, glyph] of glyphs.entries()) {
          const place = letters.get(offsets[i]!)
          if (glyph === 0 && place?.letter.trim()) found.set(place.at, place)
        }
    paragraph.delete()
    const missing = [...found.values()].sort((a, b) => a.at - b.at)
    return { left, top, width, height, missing, room, widestWord }
  }

  rangeRects(layer: TitleLayer, from: number, to: number): Rect[] {
    const { ck } = this
    const { paragraph, x, y } = setTitle(ck, this.fonts, layer)
    const [a, b] = from < to ? [from, to] : [Math.max(0, from - 1), Math.max(1, from)]
    const rects = paragraph.getRectsForRange(a, b, ck.RectHeightStyle.Max, ck.RectWidthStyle.Tight)
    const found = rects.map(({ rect }) => ({
      x: x + rect[0]!,
      y: y + rect[1]!,
      width: rect[2]! - rect[0]!,
      height: rect[3]! - rect[1]!,
    }))
    const lines = from < to ? [] : paragraph.getLineMetrics()
    paragraph.delete()
    if (from < to) return found
    // The caret stands behind the letter before it; at the start, and after a line break, at the line's beginning.
    const line = [...lines].reverse().find((entry) => entry.startIndex <= from) ?? lines[0]
    const top = line ? y + line.baseline - line.ascent : y
    const height = line ? line.height : (layer.style.size as number)
    if (from > 0 && layer.text[from - 1] !== '\n' && found[0] && found[0].height > 0)
      return [{ x: found[0].x + found[0].width, y: found[0].y, width: 0, height: found[0].height }]
    return [{ x: x + (line?.left ?? 0), y: top, width: 0, height }]
  }

  letterAt(layer: TitleLayer, px: number, py: number): number {
    const { paragraph, x, y } = setTitle(this.ck, this.fonts, layer)
    const { pos } = paragraph.getGlyphPositionAtCoordinate(px - x, py - y)
    paragraph.delete()
    return Math.min(Math.max(pos, 0), layer.text.length)
  }

  release(): void {
    this.sprites.release()
    this.layouts.clear()
  }
}

/** From the finest part to the whole. */
const ORDER: readonly TitleMovePlan['unit'][] = ['letter', 'word', 'line', 'whole']

/** How much of a passing title is there: coming rises, going falls. */
const presence = (move: TitleMovePlan) => (move.phase === 'out' ? 1 - move.progress : move.progress)

function boxOf(rect: Rect): TitleLayout {
  return {
    paragraph: null as never,
    x: rect.x,
    y: rect.y,
    left: rect.x,
    top: rect.y,
    width: rect.width,
    height: rect.height,
    room: rect.width,
    widestWord: 0,
  }
}

function union(rects: readonly Rect[]): Rect | null {
  if (rects.length === 0) return null
  const x = Math.min(...rects.map((rect) => rect.x))
  const y = Math.min(...rects.map((rect) => rect.y))
  return {
    x,
    y,
    width: Math.max(...rects.map((rect) => rect.x + rect.width)) - x,
    height: Math.max(...rects.map((rect) => rect.y + rect.height)) - y,
  }
}
