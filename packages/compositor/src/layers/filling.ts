import { scaling, multiply, type BackgroundFillPlan } from '@dusk/timeline'
import { colourParts, colourWord } from '../colour'
import type { Engine } from '../engine'
import { Picture } from '../picture'
import { blurPicture } from './blur'
import type { Paint } from './frameStyle'
import type { LayerPainter } from './layerPainter'

/** Draws what lies behind a fitted picture, over the whole canvas. */
export function drawFilling(
  engine: Engine,
  painter: LayerPainter,
  backgroundFill: BackgroundFillPlan,
  opacity: number,
  paint: Paint,
  target: Picture,
): void {
  const { kernels } = engine
  const { width, height } = target
  if (backgroundFill.kind === 'blur') {
    // Drawn at an eighth: the blur leaves nothing finer than that.
    const [w, h] = [Math.max(8, Math.round(width / 8)), Math.max(8, Math.round(height / 8))]
    const small = Picture.rgba(engine, w, h)
    kernels.fill(small.address(), w * h, colourWord('#000000'))
    paint(multiply(scaling(w / width, h / height), backgroundFill.matrix), 1, small)
    const sigma = Math.max(w, h) / 28
    blurPicture(engine, small, sigma, sigma)
    kernels.towards(small.address(), w * h, 0, 0, 0, 0.25)
    painter.draw(small, scaling(width / w, height / h), opacity, true, target.address(), width, height)
    small.release()
    return
  }
  const sheet = Picture.rgba(engine, width, height)
  kernels.fill(sheet.address(), width * height, colourWord(backgroundFill.colour))
  if (backgroundFill.kind === 'pattern') drawStripes(engine, sheet, backgroundFill.colour)
  kernels.blendRow(sheet.address(), target.address(), width * height, Math.round(opacity * 32_768))
  sheet.release()
}

/** Slanting stripes, a little lighter than their ground; as wide as a thirtieth of the longer side. */
function drawStripes(engine: Engine, sheet: Picture, colour: string): void {
  const { width, height } = sheet
  const step = Math.max(4, Math.round(Math.max(width, height) / 30))
  const [r, g, b] = colourParts(colour)
  const light = (value: number) => Math.min(255, value + 18)
  const word = 0xff000000 | (light(b) << 16) | (light(g) << 8) | light(r) | 0
  for (let y = 0; y < height; y++) {
    for (let x = -((y % (2 * step)) + 2 * step); x < width; x += 2 * step) {
      const from = Math.max(0, x)
      const to = Math.min(width, x + step)
      if (to > from) engine.kernels.fill(sheet.address() + (y * width + from) * 4, to - from, word)
    }
  }
}
