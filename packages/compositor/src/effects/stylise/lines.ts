import { BLEND_MODES } from '@dusk/timeline'
import { colour, definePicture, num, number, percent, preset, type EffectSettings } from '../define'
import { parts } from '../colour/tools'
import type { EffectStage } from '../stage'

/** Lines where brightness changes, in a colour on a ground. */
function lines(stage: EffectStage, settings: EffectSettings, line: unknown, ground: unknown, keep: number): void {
  const { engine, picture } = stage
  const source = stage.copy()
  const sigma = num(settings, 'fineness') * stage.scale
  if (sigma > 0.3) stage.blur(source, sigma, sigma)
  const [a, b] = [parts(line).map((value) => value * 255), parts(ground).map((value) => value * 255)]
  engine.kernels.drawLines(
    ...([source.address(), picture.address(), picture.width, picture.height] as const),
    ...([(num(settings, 'amount') / 100) * 9, 26 - num(settings, 'detail') / 4, keep] as const),
    ...([a[0]!, a[1]!, a[2]!, b[0]!, b[1]!, b[2]!, 0, picture.height] as const),
  )
  source.release()
}
const lineParams = (fineness: number, detail: number) => [
  percent('amount', 'Amount', 70, 200),
  percent('detail', 'Detail', detail),
  number('fineness', 'Thickness', 0, 12, fineness, { unit: 'px', digits: 1, step: 0.1 }),
]

export const edges = definePicture({
  id: 'edges',
  name: 'Glowing edges',
  family: 'stylise',
  hint: 'Only outlines, drawn in light.',
  params: [...lineParams(1.6, 85), colour('line', 'Line', '#ffd9a0'), colour('ground', 'Ground', '#120f1c')],
  presets: [preset('blueOutline', 'Blue outline', { line: '#8ea2f2', amount: 120 })],
  draw: (stage, settings) => lines(stage, settings, settings.line, settings.ground, 0),
})

export const sketch = definePicture({
  id: 'sketch',
  name: 'Pencil',
  family: 'stylise',
  hint: 'Drawn with a soft pencil on paper.',
  params: [
    ...lineParams(1.2, 90),
    percent('shading', 'Shading', 45),
    colour('line', 'Pencil', '#3a3340'),
    colour('ground', 'Paper', '#f3ece2'),
  ],
  presets: [preset('redChalk', 'Red chalk', { line: '#8a3b28', shading: 70 })],
  draw(stage, settings) {
    const { engine, picture, pixels } = stage
    const shade = stage.copy()
    lines(stage, settings, settings.line, settings.ground, 0)
    const sigma = 3 * stage.scale
    stage.blur(shade, sigma, sigma)
    // Lighter than it was, and rough as paper is.
    engine.kernels.towards(shade.address(), pixels, 255, 255, 255, 1 - num(settings, 'shading') / 100)
    stage.grain(shade, 7, Math.max(1, 2 * stage.scale), 26, 0)
    engine.kernels.blendPixels(shade.address(), picture.address(), pixels, BLEND_MODES.indexOf('multiply'))
    shade.release()
  },
})

export const ink = definePicture({
  id: 'ink',
  name: 'Ink and wash',
  family: 'stylise',
  hint: 'Flat colours with inked outlines.',
  params: [...lineParams(1.8, 70), percent('wash', 'Wash', 60), colour('line', 'Ink', '#17131f')],
  presets: [preset('comic', 'Picture story', { amount: 130, wash: 85 })],
  draw(stage, settings) {
    const wash = num(settings, 'wash') / 100
    if (wash > 0) {
      const { engine, picture, pixels } = stage
      const mean = stage.copy()
      const sigma = Math.max(1, 5 * wash * stage.scale)
      stage.blur(mean, sigma, sigma)
      const spread = stage.sheet()
      engine.kernels.deviation(picture.address(), mean.address(), spread.address(), pixels)
      stage.blur(spread, sigma, sigma)
      engine.kernels.calm(picture.address(), mean.address(), spread.address(), pixels, 12 + 30 * wash, 1, 0)
      mean.release()
      spread.release()
    }
    lines(stage, settings, settings.line, '#000000', 1)
  },
})
