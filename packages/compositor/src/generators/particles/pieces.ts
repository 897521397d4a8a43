import type { Paint } from 'canvaskit-wasm'
import { fill, type Sheet } from '../define'

/** Pieces that several kinds of particles are made of. Each is drawn within a square about the middle. */

function drawnWith(sheet: Sheet, paint: Paint, draw: () => void): void {
  draw()
  paint.delete()
}

/** A soft round light. */
export function glowDot(sheet: Sheet, side: number, hex: string): void {
  const { ck, canvas } = sheet
  const paint = fill(sheet, hex)
  const [r, g, b] = ck.parseColorString(hex)
  const shader = ck.Shader.MakeRadialGradient(
    [0, 0],
    side / 2,
    [ck.Color4f(1, 1, 1, 1), ck.Color4f(r!, g!, b!, 0.9), ck.Color4f(r!, g!, b!, 0)],
    [0, 0.22, 1],
    ck.TileMode.Clamp,
  )
  paint.setShader(shader)
  drawnWith(sheet, paint, () => canvas.drawCircle(0, 0, side / 2, paint))
  shader.delete()
}

/** A disc with a soft edge. */
export function softDot(sheet: Sheet, side: number, hex: string): void {
  const { ck, canvas } = sheet
  const paint = fill(sheet, hex)
  const [r, g, b] = ck.parseColorString(hex)
  const colours = [ck.Color4f(r!, g!, b!, 1), ck.Color4f(r!, g!, b!, 0.85), ck.Color4f(r!, g!, b!, 0)]
  const shader = ck.Shader.MakeRadialGradient([0, 0], side / 2, colours, [0, 0.5, 1], ck.TileMode.Clamp)
  paint.setShader(shader)
  drawnWith(sheet, paint, () => canvas.drawCircle(0, 0, side / 2, paint))
  shader.delete()
}

/** A thin streak from top to bottom. */
export function streak(sheet: Sheet, side: number, hex: string): void {
  const { ck, canvas } = sheet
  const paint = fill(sheet, hex)
  const [r, g, b] = ck.parseColorString(hex)
  const colours = [ck.Color4f(r!, g!, b!, 0), ck.Color4f(r!, g!, b!, 0.9), ck.Color4f(r!, g!, b!, 0.4)]
  const shader = ck.Shader.MakeLinearGradient([0, -side / 2], [0, side / 2], colours, [0, 0.8, 1], ck.TileMode.Clamp)
  paint.setShader(shader)
  const half = Math.max(0.5, side * 0.025)
  drawnWith(sheet, paint, () => canvas.drawRect(ck.LTRBRect(-half, -side / 2, half, side / 2), paint))
  shader.delete()
}

/** A strip of paper. */
export function paper(sheet: Sheet, side: number, hex: string): void {
  const paint = fill(sheet, hex)
  drawnWith(sheet, paint, () =>
    sheet.canvas.drawRect(sheet.ck.LTRBRect(-side * 0.3, -side * 0.45, side * 0.3, side * 0.45), paint),
  )
}

/** A petal: broad at one end, pointed at the other. */
export function petal(sheet: Sheet, side: number, hex: string): void {
  const { ck, canvas } = sheet
  const paint = fill(sheet, hex, 0.95)
  const half = side / 2
  const path = ck.Path.MakeFromSVGString(
    `M0 ${-half}C${half * 0.9} ${-half * 0.6} ${half * 0.7} ${half * 0.7} 0 ${half}` +
      `C${-half * 0.7} ${half * 0.7} ${-half * 0.9} ${-half * 0.6} 0 ${-half}Z`,
  )!
  drawnWith(sheet, paint, () => canvas.drawPath(path, paint))
  path.delete()
}

/** A bubble: a rim, a highlight, next to nothing inside. */
export function bubblePiece(sheet: Sheet, side: number, hex: string): void {
  const { ck, canvas } = sheet
  const [r, g, b] = ck.parseColorString(hex)
  const rim = fill(sheet, hex)
  const colours = [
    ck.Color4f(r!, g!, b!, 0.02),
    ck.Color4f(r!, g!, b!, 0.08),
    ck.Color4f(r!, g!, b!, 0.75),
    ck.Color4f(r!, g!, b!, 0),
  ]
  const shader = ck.Shader.MakeRadialGradient([0, 0], side / 2, colours, [0, 0.7, 0.94, 1], ck.TileMode.Clamp)
  rim.setShader(shader)
  drawnWith(sheet, rim, () => canvas.drawCircle(0, 0, side / 2, rim))
  shader.delete()
  const light = fill(sheet, '#ffffff', 0.75)
  drawnWith(sheet, light, () =>
    canvas.drawOval(ck.LTRBRect(-side * 0.28, -side * 0.34, -side * 0.1, -side * 0.2), light),
  )
}

/** A paper boat's lantern: a warm body with a flame inside. */
export function lanternPiece(sheet: Sheet, side: number, hex: string): void {
  const { ck, canvas } = sheet
  glowDot(sheet, side, hex)
  const body = fill(sheet, hex, 0.95)
  const [w, h] = [side * 0.13, side * 0.17]
  drawnWith(sheet, body, () => canvas.drawRRect(ck.RRectXY(ck.LTRBRect(-w, -h, w, h), side * 0.05, side * 0.05), body))
  const flame = fill(sheet, '#fff6dc', 0.95)
  drawnWith(sheet, flame, () => canvas.drawOval(ck.LTRBRect(-w * 0.4, -h * 0.3, w * 0.4, h * 0.7), flame))
}

/** A flake with six arms. */
export function flake(sheet: Sheet, side: number, hex: string): void {
  if (side < 30) return softDot(sheet, side, hex)
  const { ck, canvas } = sheet
  const paint = fill(sheet, hex)
  paint.setStyle(ck.PaintStyle.Stroke)
  paint.setStrokeWidth(side * 0.05)
  paint.setStrokeCap(ck.StrokeCap.Round)
  const arm = side * 0.44
  for (let i = 0; i < 6; i++) {
    canvas.save()
    canvas.rotate(i * 60, 0, 0)
    canvas.drawLine(0, 0, 0, -arm, paint)
    for (const [at, long] of [
      [0.5, 0.2],
      [0.75, 0.13],
    ] as const) {
      canvas.drawLine(0, -arm * at, side * long, -arm * at - side * long * 0.7, paint)
      canvas.drawLine(0, -arm * at, -side * long, -arm * at - side * long * 0.7, paint)
    }
    canvas.restore()
  }
  paint.delete()
}
