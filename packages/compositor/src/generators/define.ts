import type { Canvas, CanvasKit, Paint } from 'canvaskit-wasm'
import { resolveParams, type Matrix, type Param, type Value } from '@dusk/timeline'
import type { FontRegistry } from '../drawing/fontRegistry'
import type { Rect } from '../drawing/vectorRenderer'

export const GENERATOR_FAMILIES = {
  grounds: 'Backgrounds',
  shapes: 'Shapes and arrows',
  callouts: 'Callouts',
  stickers: 'Stickers',
  particles: 'Particles',
} as const
export type GeneratorFamily = keyof typeof GENERATOR_FAMILIES

export type Settings = Record<string, Value>

/** What a generated picture is drawn with, in reel pixels. */
export interface Sheet {
  ck: CanvasKit
  canvas: Canvas
  fonts: FontRegistry
  width: number
  height: number
  /** What {@link GeneratorKind.frame} gave. */
  frame: number
  /** Length of the clip in ticks. */
  length: number
}

/** A picture made by rule. */
export interface GeneratorKind {
  id: string
  name: string
  family: GeneratorFamily
  hint: string
  params: readonly Param[]
  /** Which picture of those it has shows at a time; pictures that stay leave it out. */
  frame?(settings: Settings, time: number, length: number): number
  /** The part of the frame it covers; all of it when left out. */
  box?(settings: Settings, frame: { width: number; height: number }): Rect
  /** Text in it that needs fonts. */
  text?(settings: Settings): string
  draw(sheet: Sheet, settings: Settings): void
  /** Of what is made of many small pieces: those that are seen at a time, each drawn once and then laid down. */
  sprites?(settings: Settings, time: number, frame: { width: number; height: number }): GeneratedSprite[]
  /** Ready-made settings with names of their own. */
  presets: readonly GeneratorPreset[]
  /** Settings filled up with defaults and held in range. */
  settings(set: Settings): Settings
}

/** Ready-made settings of a generated picture. */
export interface GeneratorPreset {
  id: string
  name: string
  settings: Settings
}
export const preset = (id: string, name: string, settings: Settings): GeneratorPreset => ({ id, name, settings })

/** A small piece and where it lies. */
export interface GeneratedSprite {
  /** Says what `draw` draws: the same name, the same piece. */
  name: string
  /** It is drawn within a square of this side about the middle. */
  side: number
  draw(sheet: Sheet): void
  /** From the piece, its middle at nought, to the layer. */
  matrix: Matrix
  /** 0 to 1. */
  opacity: number
}

type Loose = Omit<GeneratorKind, 'settings' | 'presets'> & Partial<Pick<GeneratorKind, 'presets'>>

export function defineGenerator(kind: Loose): GeneratorKind {
  return { presets: [], ...kind, settings: (set) => resolveParams(kind.params, set, 0) }
}

export const colour = (key: string, label: string, initial: string): Param => ({
  kind: 'colour',
  key,
  label,
  default: initial,
})
export const number = (key: string, label: string, min: number, max: number, initial: number, unit = ''): Param => ({
  kind: 'number',
  key,
  label,
  min,
  max,
  default: initial,
  unit,
})

/** Settings of a kind for a reel of some size: its lengths, defaults among them, grow with the shorter side. */
export function settingsFor(kind: GeneratorKind, set: Settings, format: { width: number; height: number }): Settings {
  const factor = Math.min(format.width, format.height) / 1080
  const lengths = kind.params.flatMap((param) => {
    if (param.kind !== 'number' || param.unit !== 'px') return []
    const grown = Math.round(((set[param.key] as number | undefined) ?? param.default) * factor)
    return [[param.key, Math.min(param.max, Math.max(param.min, grown))]]
  })
  return factor === 1 ? set : { ...set, ...Object.fromEntries(lengths) }
}

/** Paint of a colour; the caller deletes it. */
export function fill({ ck }: Sheet, hex: string, alpha = 1): Paint {
  const paint = new ck.Paint()
  const [r, g, b] = ck.parseColorString(hex)
  paint.setAntiAlias(true)
  paint.setColor(ck.Color4f(r!, g!, b!, alpha))
  return paint
}

/** Settings of every outlined shape: size, colours, line. */
export const shapeParams = (width: number, height: number, filled = true): Param[] => [
  number('width', 'Width', 1, 8192, width, 'px'),
  number('height', 'Height', 1, 8192, height, 'px'),
  ...(filled ? [colour('colour', 'Fill', '#ff9e5e'), number('solid', 'Fill strength', 0, 100, 100, '%')] : []),
  number('line', 'Line', 0, 400, filled ? 0 : 14, 'px'),
  colour('lineColour', 'Line colour', filled ? '#f3ece2' : '#f6d06b'),
]

/** The middle of the frame, with room for the line around it. */
export function shapeBox(settings: Settings, frame: { width: number; height: number }, room = 0): Rect {
  const [w, h, line] = [settings.width as number, settings.height as number, settings.line as number]
  const pad = line * 2 + 4 + room
  return { x: (frame.width - w) / 2 - pad, y: (frame.height - h) / 2 - pad, width: w + 2 * pad, height: h + 2 * pad }
}

/** Fills and lines a path in SVG's notation (SVG 1.1 § 8.3). */
export function drawShape(sheet: Sheet, settings: Settings, data: string): void {
  const { ck, canvas } = sheet
  const path = ck.Path.MakeFromSVGString(data)
  if (!path) throw new Error('This shape has no outline that can be drawn.')
  if ((settings.solid as number) > 0) {
    const paint = fill(sheet, String(settings.colour), (settings.solid as number) / 100)
    canvas.drawPath(path, paint)
    paint.delete()
  }
  if ((settings.line as number) > 0) {
    const paint = fill(sheet, String(settings.lineColour))
    paint.setStyle(ck.PaintStyle.Stroke)
    paint.setStrokeWidth(settings.line as number)
    paint.setStrokeJoin(ck.StrokeJoin.Round)
    paint.setStrokeCap(ck.StrokeCap.Round)
    canvas.drawPath(path, paint)
    paint.delete()
  }
  path.delete()
}

/** A shape in the middle of the frame, given as a path in a box of `w` × `h` around (0, 0). */
export function defineShape(kind: {
  id: string
  name: string
  hint: string
  size?: readonly [number, number]
  family?: GeneratorFamily
  /** A line only. */
  open?: boolean
  params?: readonly Param[]
  /** How far it reaches beyond its box. */
  room?: (settings: Settings) => number
  path: (w: number, h: number, settings: Settings) => string
}): GeneratorKind {
  const { size = [420, 420], family = 'shapes', open = false, params = [], room, path, ...rest } = kind
  return defineGenerator({
    ...rest,
    family,
    params: [...params, ...shapeParams(size[0], size[1], !open)],
    box: (settings, frame) => shapeBox(settings, frame, room?.(settings) ?? 0),
    draw(sheet, settings) {
      sheet.canvas.save()
      sheet.canvas.translate(sheet.width / 2, sheet.height / 2)
      const data = path(settings.width as number, settings.height as number, settings)
      drawShape(sheet, { ...settings, solid: open ? 0 : settings.solid! }, data)
      sheet.canvas.restore()
    },
  })
}

/** A closed path through points given as parts of the box: (−½, −½) is its upper left corner. */
export const polygon = (w: number, h: number, points: readonly (readonly [number, number])[]): string =>
  `M${points.map(([x, y]) => `${x * w} ${y * h}`).join('L')}Z`

/** A pointer from near the middle of a bubble (half sizes `rx`, `ry`) to a place outside of it. */
export function pointer(rx: number, ry: number, x: number, y: number, thick: number): string {
  const length = Math.sqrt(x * x + y * y)
  if (length < 1) return ''
  const [ux, uy] = [x / length, y / length]
  const [bx, by] = [ux * rx * 0.5, uy * ry * 0.5]
  // Wound like the outlines it is joined to, so that where they overlap stays filled.
  return `M${bx + uy * thick} ${by - ux * thick}L${x} ${y}L${bx - uy * thick} ${by + ux * thick}Z`
}
