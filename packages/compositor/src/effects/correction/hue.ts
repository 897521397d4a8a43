import { sinCosDegrees } from '@dusk/timeline'
import { chroma, clamp, luma } from '../colour/tools'
import { defineColour, degrees, num, percent, preset, swing } from '../define'

/** Hue of a colour in degrees, 0 red, 120 green, 240 blue. */
export function hueOf(rgb: Float64Array): number {
  const [r, g, b] = [rgb[0]!, rgb[1]!, rgb[2]!]
  const most = Math.max(r, g, b)
  const wide = most - Math.min(r, g, b)
  if (wide < 1e-9) return 0
  if (most === r) return (((g - b) / wide + 6) % 6) * 60
  return most === g ? ((b - r) / wide + 2) * 60 : ((r - g) / wide + 4) * 60
}

/** Turns a colour round the axis of greys by a sine and a cosine; it stays as bright. */
export function turn(rgb: Float64Array, sin: number, cos: number): void {
  const l = luma(rgb)
  const [r, g, b] = [rgb[0]! - l, rgb[1]! - l, rgb[2]! - l]
  const k = (1 - cos) / 3
  const s = sin / Math.sqrt(3)
  const next = [
    r * (cos + k) + g * (k - s) + b * (k + s),
    r * (k + s) + g * (cos + k) + b * (k - s),
    r * (k - s) + g * (k + s) + b * (cos + k),
  ]
  const off = 0.2126 * next[0]! + 0.7152 * next[1]! + 0.0722 * next[2]!
  for (let c = 0; c < 3; c++) rgb[c] = l + next[c]! - off
}

export const hueTurn = defineColour({
  id: 'hueTurn',
  name: 'Turn the hues',
  family: 'correction',
  hint: 'All colours go round the circle together.',
  params: [degrees('angle', 'By', 40)],
  presets: [
    preset('littleWarmer', 'A little round', { angle: 15 }),
    preset('otherSide', 'To the other side', { angle: 180 }),
  ],
  colour(settings) {
    const [sin, cos] = sinCosDegrees(num(settings, 'angle'))
    return (rgb) => turn(rgb, sin, cos)
  },
})

export const oneHue = defineColour({
  id: 'oneHue',
  name: 'One hue',
  family: 'correction',
  hint: 'Changes one hue and its neighbours, and leaves the rest.',
  params: [
    degrees('hue', 'Hue', 30, { hint: '0 red, 60 yellow, 120 green, 180 cyan, 240 blue, 300 magenta' }),
    percent('width', 'Width', 35),
    degrees('turn', 'Turn by', 0),
    swing('saturation', 'Saturation', 40),
    swing('level', 'Level'),
  ],
  presets: [
    preset('deeperBlues', 'Deeper blues', { hue: 225, saturation: 45, level: -20 }),
    preset('softSkin', 'Calmer skin', { hue: 22, width: 28, saturation: -22, level: 8 }),
    preset('goldenGreens', 'Golden greens', { hue: 110, width: 45, turn: -25, saturation: 10 }),
  ],
  colour(settings) {
    const hue = num(settings, 'hue')
    const width = 15 + num(settings, 'width') * 1.2
    const saturation = num(settings, 'saturation') / 100
    const level = num(settings, 'level') / 250
    const angle = num(settings, 'turn')
    return (rgb) => {
      const away = Math.abs(((((hueOf(rgb) - hue) % 360) + 540) % 360) - 180)
      const near = clamp(1 - away / width)
      const weight = near * near * (3 - 2 * near) * clamp(chroma(rgb) * 6)
      if (weight <= 0) return
      const [sin, cos] = sinCosDegrees(angle * weight)
      turn(rgb, sin, cos)
      const l = luma(rgb)
      for (let c = 0; c < 3; c++) rgb[c] = l + (rgb[c]! - l) * (1 + saturation * weight) + level * weight
    }
  },
})
