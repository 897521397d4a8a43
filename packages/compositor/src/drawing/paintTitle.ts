import type { Canvas, CanvasKit, Paint } from 'canvaskit-wasm'
import { sinCosDegrees, type TitleLayer, type Value } from '@dusk/timeline'
import type { FontRegistry } from './fontRegistry'
import { setTitle, type TitleLayout } from './titleLayout'

const number = (style: Record<string, Value>, key: string) => style[key] as number

/** How far a title's outline, shadow, glow and box reach beyond its letters, in reel pixels. */
export function titleMargin(style: Record<string, Value>): number {
  const shadow =
    number(style, 'letterShadow') > 0 ? number(style, 'shadowDistance') + number(style, 'shadowBlur') * 1.6 : 0
  const glow = number(style, 'glow') * 1.6
  const box = number(style, 'box') > 0 ? number(style, 'boxPadding') : 0
  // Italics and flourishes lean out of their boxes by up to a third of their size.
  return Math.ceil(Math.max(shadow, glow, box) + number(style, 'outline') + number(style, 'size') * 0.35 + 2)
}

/** Draws the box behind a title. */
export function paintBox(ck: CanvasKit, canvas: Canvas, layer: TitleLayer, layout: TitleLayout): void {
  const { style } = layer
  const strength = number(style, 'box') / 100
  if (strength <= 0) return
  const pad = number(style, 'boxPadding')
  const [l, t, r, b] = [
    layout.left - pad,
    layout.top - pad / 2,
    layout.left + layout.width + pad,
    layout.top + layout.height + pad / 2,
  ]
  const paint = new ck.Paint()
  paint.setAntiAlias(true)
  const [red, green, blue] = ck.parseColorString(String(style.boxColour))
  paint.setColor(ck.Color4f(red!, green!, blue!, strength))
  const round = number(style, 'boxCornerRadius')
  const thick = Math.max(2, number(style, 'size') * 0.07)
  if (style.boxEdge === 'line') canvas.drawRect(ck.LTRBRect(l, b - thick, r, b), paint)
  else if (style.boxEdge === 'bar') canvas.drawRect(ck.LTRBRect(l - thick, t, l, b), paint)
  else {
    if (style.boxEdge === 'ring') {
      paint.setStyle(ck.PaintStyle.Stroke)
      paint.setStrokeWidth(thick / 2)
    }
    canvas.drawRRect(ck.RRectXY(ck.LTRBRect(l, t, r, b), round, round), paint)
  }
  paint.delete()
}

/** Draws letters of a title: glow, shadow and outline behind, fill in front. `only` is a range of the text. */
export function paintLetters(
  ck: CanvasKit,
  fonts: FontRegistry,
  canvas: Canvas,
  layer: TitleLayer,
  only?: readonly [number, number],
): void {
  const { style } = layer
  const pass = (foreground: Paint, dx = 0, dy = 0) => {
    const { paragraph, x, y } = setTitle(ck, fonts, layer, { foreground, ...(only ? { only } : {}) })
    canvas.drawParagraph(paragraph, x + dx, y + dy)
    paragraph.delete()
  }
  const paint = new ck.Paint()
  paint.setAntiAlias(true)
  const colour = (key: string, alpha = 1) => {
    const [r, g, b] = ck.parseColorString(String(style[key]))
    paint.setColor(ck.Color4f(r!, g!, b!, alpha))
  }
  const blurred = (sigma: number) => {
    const filter = sigma > 0 ? ck.MaskFilter.MakeBlur(ck.BlurStyle.Normal, sigma, true) : null
    paint.setMaskFilter(filter)
    return () => filter?.delete()
  }
  if (number(style, 'glow') > 0) {
    const done = blurred(number(style, 'glow') / 2)
    colour('glowColour', 0.9)
    pass(paint)
    pass(paint)
    done()
  }
  if (number(style, 'letterShadow') > 0) {
    const [sin, cos] = sinCosDegrees(number(style, 'shadowAngle'))
    const done = blurred(number(style, 'shadowBlur') / 2)
    colour('shadowColour', number(style, 'letterShadow') / 100)
    pass(paint, cos * number(style, 'shadowDistance'), sin * number(style, 'shadowDistance'))
    done()
  }
  blurred(0)
  if (number(style, 'outline') > 0) {
    paint.setStyle(ck.PaintStyle.Stroke)
    // Half of a stroke lies under the letter.
    paint.setStrokeWidth(number(style, 'outline') * 2)
    paint.setStrokeJoin(ck.StrokeJoin.Round)
    colour('outlineColour')
    pass(paint)
    paint.setStyle(ck.PaintStyle.Fill)
  }
  if (style.fill === 'gradient') {
    const at = setTitle(ck, fonts, layer)
    at.paragraph.delete()
    const [sin, cos] = sinCosDegrees(number(style, 'gradientAngle'))
    const [cx, cy] = [at.left + at.width / 2, at.top + at.height / 2]
    const reach = (Math.abs(cos) * at.width + Math.abs(sin) * at.height) / 2
    const shader = ck.Shader.MakeLinearGradient(
      [cx - cos * reach, cy - sin * reach],
      [cx + cos * reach, cy + sin * reach],
      [ck.parseColorString(String(style.colour)), ck.parseColorString(String(style.colour2))],
      null,
      ck.TileMode.Clamp,
    )
    paint.setColor(ck.WHITE)
    paint.setShader(shader)
    pass(paint)
    paint.setShader(null)
    shader.delete()
  } else {
    // Runs keep their own colours: no paint is laid over them.
    const { paragraph, x, y } = setTitle(ck, fonts, layer, { foreground: null as never, ...(only ? { only } : {}) })
    canvas.drawParagraph(paragraph, x, y)
    paragraph.delete()
  }
  paint.delete()
}
