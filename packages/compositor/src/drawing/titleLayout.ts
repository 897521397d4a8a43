import type { CanvasKit, Paint, Paragraph, TextStyle } from 'canvaskit-wasm'
import type { TitleLayer, Value } from '@dusk/timeline'
import type { FontRegistry } from './fontRegistry'
import { readsFromRight } from './readingDirection'

type Style = Record<string, Value>

/** A title set in lines, in reel pixels; (0, 0) is the frame's upper left corner. */
export interface TitleLayout {
  paragraph: Paragraph
  /** Where the paragraph is drawn. */
  x: number
  y: number
  /** The words' own box in the frame. */
  left: number
  top: number
  width: number
  height: number
  /** Width that its lines have, and that of its widest word: a wider one is broken within. */
  room: number
  widestWord: number
}

/** What one pass over the letters looks like: their own colours, or one paint for all. */
export interface Ink {
  foreground: Paint
  /** Letters outside of this range are set but not seen. */
  only?: readonly [number, number]
}

/** Letters of one style, half-open. */
interface Piece {
  from: number
  to: number
  style: Style
}

/** The text cut wherever a run begins or ends; later runs win. */
export function pieces(layer: Pick<TitleLayer, 'text' | 'style' | 'runs'>): Piece[] {
  const edges = new Set([0, layer.text.length])
  for (const run of layer.runs)
    edges.add(Math.min(run.from, layer.text.length)).add(Math.min(run.to, layer.text.length))
  const sorted = [...edges].sort((a, b) => a - b)
  return sorted.slice(1).map((to, i) => {
    const from = sorted[i]!
    const own = layer.runs.filter((run) => run.from <= from && run.to >= to).map((run) => run.style)
    return { from, to, style: Object.assign({}, layer.style, ...own) as Style }
  })
}

const number = (style: Style, key: string) => style[key] as number

function textStyle(ck: CanvasKit, families: string[], style: Style, lineSpacing: number, colour: Float32Array) {
  return new ck.TextStyle({
    color: colour,
    fontFamilies: families,
    fontSize: number(style, 'size'),
    fontStyle: {
      weight: { value: number(style, 'weight') },
      slant: style.italic ? ck.FontSlant.Italic : ck.FontSlant.Upright,
    },
    fontVariations: [{ axis: 'wght', value: number(style, 'weight') }],
    letterSpacing: number(style, 'spacing'),
    heightMultiplier: lineSpacing,
    halfLeading: true,
    ...(style.underline ? { decoration: ck.UnderlineDecoration, decorationThickness: 1, decorationColor: colour } : {}),
  } as unknown as TextStyle)
}

/**
 * Sets a title's text. Line breaks do not depend on the size of the output: lines are always set in reel pixels and
 * drawn larger or smaller.
 */
export function setTitle(ck: CanvasKit, fonts: FontRegistry, layer: TitleLayer, ink?: Ink): TitleLayout {
  const { style } = layer
  const order = (of: Style) => fonts.order(String(of.font), layer.text)
  const crawl = style.travel === 'crawl'
  const aligns = {
    left: ck.TextAlign.Left,
    right: ck.TextAlign.Right,
    justify: ck.TextAlign.Justify,
    center: ck.TextAlign.Center,
  }
  const lineSpacing = number(style, 'lineSpacing') / 100
  const invisible = ck.Color4f(0, 0, 0, 0)
  const builder = ck.ParagraphBuilder.MakeFromFontCollection(
    new ck.ParagraphStyle({
      textAlign: crawl ? ck.TextAlign.Left : aligns[style.align as keyof typeof aligns],
      textDirection: readsFromRight(layer.text, style.script) ? ck.TextDirection.RTL : ck.TextDirection.LTR,
      textStyle: {
        fontFamilies: order(style),
        fontSize: number(style, 'size'),
        heightMultiplier: lineSpacing,
        halfLeading: true,
      },
    }),
    fonts.collection,
  )
  const none = new ck.Paint()
  none.setColor(invisible)
  const ground = new ck.Paint()
  ground.setColor(invisible)
  const add = (from: number, to: number, pieceStyle: Style, seen: boolean) => {
    if (to <= from) return
    const colour = seen ? ck.parseColorString(String(pieceStyle.colour)) : invisible
    const made = textStyle(ck, order(pieceStyle), pieceStyle, lineSpacing, colour)
    if (ink && seen && ink.foreground) builder.pushPaintStyle(made, ink.foreground, ground)
    else if (!seen) builder.pushPaintStyle(made, none, ground)
    else builder.pushStyle(made)
    const text = crawl ? layer.text.slice(from, to).replaceAll('\n', '  ') : layer.text.slice(from, to)
    builder.addText(text)
    builder.pop()
  }
  for (const piece of pieces(layer)) {
    const [a, b] = ink?.only ?? [0, layer.text.length]
    const cut = (at: number) => Math.min(Math.max(at, piece.from), piece.to)
    add(piece.from, cut(a), piece.style, false)
    add(cut(a), cut(b), piece.style, true)
    add(cut(b), piece.to, piece.style, false)
  }
  const paragraph = builder.build()
  builder.delete()
  none.delete()
  ground.delete()
  const room = number(style, 'width') || layer.width * 0.9
  paragraph.layout(crawl ? 1e6 : room)
  const widestWord = crawl ? 0 : paragraph.getMinIntrinsicWidth()
  // Without a letter the longest line is as good as minus infinity.
  const longest = Math.max(0, Math.min(paragraph.getLongestLine(), crawl ? 1e6 : room))
  const height = paragraph.getHeight()
  const align = crawl ? 'left' : String(style.align)
  // Words without a width of their own are as wide as their longest line, centred in the frame.
  const block = crawl ? longest : number(style, 'width') || longest
  const spare = crawl ? 0 : room - block
  const shift = align === 'left' || align === 'justify' ? 0 : align === 'right' ? spare : spare / 2
  let left = (layer.width - block) / 2
  let top = (layer.height - height) / 2
  if (style.travel === 'roll') top = layer.height - layer.travel * (layer.height + height)
  if (crawl) left = layer.width - layer.travel * (layer.width + longest)
  return { paragraph, x: left - shift, y: top, left, top, width: block, height, room, widestWord }
}
