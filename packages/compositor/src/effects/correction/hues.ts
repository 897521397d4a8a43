import { sinCosDegrees } from '@dusk/timeline'
import { chroma, clamp, luma } from '../colour/tools'
import { defineColour, num, number, preset, swing } from '../define'
import { hueOf, turn } from './hue'

/** The ranges and the hue in the middle of each, in degrees. */
export const HUE_RANGES = [
  { key: 'red', name: 'Reds', hue: 0 },
  { key: 'orange', name: 'Oranges', hue: 30 },
  { key: 'yellow', name: 'Yellows', hue: 60 },
  { key: 'green', name: 'Greens', hue: 120 },
  { key: 'cyan', name: 'Cyans', hue: 180 },
  { key: 'blue', name: 'Blues', hue: 225 },
  { key: 'violet', name: 'Violets', hue: 270 },
  { key: 'pink', name: 'Pinks', hue: 315 },
] as const

/** The range whose middle is nearest to a hue. @param hue degrees, 0 to 360 */
export const hueRangeAt = (hue: number): (typeof HUE_RANGES)[number] =>
  HUE_RANGES.reduce((best, range) => (apart(range.hue, hue) < apart(best.hue, hue) ? range : best))

const apart = (a: number, b: number) => Math.abs(((((a - b) % 360) + 540) % 360) - 180)

export const hues = defineColour({
  id: 'hues',
  name: 'Eight hues',
  family: 'correction',
  hint: 'Turns, colours and lightens each of eight ranges of hue by itself.',
  params: HUE_RANGES.flatMap(({ key, name }) => [
    number(`${key}Turn`, 'Turn', -60, 60, 0, { unit: '°', digits: 0, group: name }),
    swing(`${key}Saturation`, 'Saturation', 0, { group: name }),
    swing(`${key}Level`, 'Lightness', 0, { group: name }),
  ]),
  presets: [
    preset('deeperSky', 'Deeper sky', { blueSaturation: 40, blueLevel: -25, cyanSaturation: 20, cyanLevel: -15 }),
    preset('autumn', 'Early autumn', { greenTurn: -45, greenSaturation: -15, yellowTurn: -18, yellowSaturation: 15 }),
    preset('calmSkin', 'Calm skin', { redSaturation: -15, orangeSaturation: -12, orangeLevel: 8 }),
  ],
  colour(settings) {
    const ranges = HUE_RANGES.map(({ key, hue }) => ({
      hue,
      turn: num(settings, `${key}Turn`),
      saturation: num(settings, `${key}Saturation`) / 100,
      level: num(settings, `${key}Level`) / 250,
    }))
    return (rgb) => {
      const hue = hueOf(rgb)
      const i = ranges.findLastIndex((range) => range.hue <= hue)
      const [from, to] = [ranges[i]!, ranges[(i + 1) % ranges.length]!]
      const t = (hue - from.hue) / ((to.hue || 360) - from.hue)
      const k = t * t * (3 - 2 * t)
      const sure = clamp(chroma(rgb) * 6)
      const mix = (key: 'turn' | 'saturation' | 'level') => (from[key] * (1 - k) + to[key] * k) * sure
      const angle = mix('turn')
      if (angle !== 0) {
        const [sin, cos] = sinCosDegrees(angle)
        turn(rgb, sin, cos)
      }
      const l = luma(rgb)
      const [by, level] = [1 + mix('saturation'), mix('level')]
      for (let c = 0; c < 3; c++) rgb[c] = l + (rgb[c]! - l) * by + level
    }
  },
})
