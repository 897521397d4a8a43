import type { Paint } from 'canvaskit-wasm'
import type { Param } from '@dusk/timeline'
import { colour, fill, number, type Settings, type Sheet } from '../define'

/** Settings of every pattern on a ground of one colour. */
export const patternParams = (size: number): Param[] => [
  colour('colour', 'Ground', '#2a2335'),
  colour('colour2', 'Pattern', '#3f3560'),
  number('size', 'Size', 4, 400, size, 'px'),
]

/** Fills the ground and hands over the paint of the pattern and its size in pixels. */
export function pattern(sheet: Sheet, settings: Settings, draw: (paint: Paint, size: number) => void): void {
  const { ck, canvas, width, height } = sheet
  const ground = fill(sheet, String(settings.colour))
  canvas.drawRect(ck.LTRBRect(0, 0, width, height), ground)
  ground.delete()
  const paint = fill(sheet, String(settings.colour2))
  draw(paint, settings.size as number)
  paint.delete()
}
