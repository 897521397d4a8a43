import { curvePoints, curveThrough, sinCosDegrees, type Param } from '@dusk/timeline'
import { chroma, clamp, luma, saturate } from '../colour/tools'
import { defineColour, preset, type EffectSettings } from '../define'
import { hueOf, turn } from './hue'

const curve = (key: string, label: string, over: 'tone' | 'hue' | 'luma', group: string, tint?: string): Param => ({
  ...{ kind: 'curve', key, label, over, default: '', group, fixed: true },
  ...(tint ? { tint } : {}),
})

/** Degrees that hues turn at the upper edge of their curve. */
const TURN = 60

const through = (settings: EffectSettings, key: string, round = false): ((x: number) => number) | null => {
  const points = curvePoints(String(settings[key] ?? ''))
  return points.length > 0 ? curveThrough(points, round) : null
}

export const curves = defineColour({
  id: 'curves',
  name: 'Curves',
  family: 'correction',
  hint: 'What becomes of each brightness and each hue, drawn as curves over the picture’s own histogram.',
  params: [
    curve('luma', 'All', 'tone', 'Brightness', '#f3ece2'),
    curve('red', 'Red', 'tone', 'Brightness', '#ec7f95'),
    curve('green', 'Green', 'tone', 'Brightness', '#93c48b'),
    curve('blue', 'Blue', 'tone', 'Brightness', '#8ea2f2'),
    curve('hueSaturation', 'Saturation by hue', 'hue', 'Colour'),
    curve('hueTurn', 'Turn by hue', 'hue', 'Colour'),
    curve('lumaSaturation', 'Saturation by brightness', 'luma', 'Colour'),
  ],
  presets: [
    preset('gentleS', 'Gentle S', { luma: '0,0 0.25,0.2 0.75,0.81 1,1' }),
    preset('liftedFeet', 'Lifted feet', { luma: '0,0.09 0.3,0.32 1,0.98' }),
    preset('crossed', 'Crossed film', {
      red: '0,0 0.3,0.22 0.7,0.8 1,1',
      green: '0,0 0.35,0.31 0.7,0.76 1,1',
      blue: '0,0.12 0.5,0.5 1,0.86',
    }),
    preset('onlyWarm', 'Only what is warm', { hueSaturation: '0,0.6 0.12,0.6 0.25,0.1 0.5,0.04 0.8,0.1 0.92,0.5' }),
  ],
  colour(settings) {
    const all = through(settings, 'luma')
    const channels = ['red', 'green', 'blue'].map((key) => through(settings, key))
    const byHue = through(settings, 'hueSaturation', true)
    const turned = through(settings, 'hueTurn', true)
    const byLuma = through(settings, 'lumaSaturation')
    return (rgb) => {
      for (let c = 0; c < 3; c++) {
        const own = channels[c]
        if (all) rgb[c] = all(clamp(rgb[c]!))
        if (own) rgb[c] = own(clamp(rgb[c]!))
      }
      if (byHue || turned) {
        const hue = hueOf(rgb) / 360
        // Greys have no hue that could be told.
        const sure = clamp(chroma(rgb) * 8)
        if (turned) {
          const [sin, cos] = sinCosDegrees((turned(hue) - 0.5) * 2 * TURN * sure)
          turn(rgb, sin, cos)
        }
        if (byHue) saturate(rgb, 1 + (2 * byHue(hue) - 1) * sure)
      }
      if (byLuma) saturate(rgb, 2 * byLuma(clamp(luma(rgb))))
    }
  },
})
