import type { Param } from '@dusk/timeline'
import { luma, smooth } from '../colour/tools'
import { defineColour, num, preset, swing, type EffectSettings } from '../define'

const TONES = [
  { key: 'all', name: 'All' },
  { key: 'shadows', name: 'Shadows' },
  { key: 'middle', name: 'Middle' },
  { key: 'lights', name: 'Lights' },
] as const

const wheel = (key: string, group: string): Param => ({
  ...{ kind: 'point', key, label: 'Tint', min: -100, max: 100, default: [0, 0], digits: 0, wheel: true },
  ...{ group, hint: 'Blue to the right, red upwards' },
})

/** What a tint adds to red, green and blue, as bright as before: colour differences of ITU-R BT.709. */
function tintOf(settings: EffectSettings, key: string): [number, number, number] {
  const value = settings[`${key}Tint`]
  const [x, y] = Array.isArray(value) ? value : [0, 0]
  const [cb, cr] = [Number(x) / 400, Number(y) / 400]
  return [1.5748 * cr, -0.1873 * cb - 0.4681 * cr, 1.8556 * cb]
}

export const wheels = defineColour({
  id: 'wheels',
  name: 'Colour wheels',
  family: 'correction',
  hint: 'A tint and a level each for all of it, its shadows, middle and lights.',
  params: TONES.flatMap(({ key, name }) => [
    wheel(`${key}Tint`, name),
    swing(`${key}Level`, 'Level', 0, { group: name }),
  ]),
  presets: [
    preset('tealEmber', 'Cool below, warm above', { shadowsTint: [26, -24], lightsTint: [-26, 20] }),
    preset('warmBelow', 'Warm below', { shadowsTint: [-18, 22], lightsTint: [14, -8] }),
    preset('moonMiddle', 'A cool middle', { middleTint: [24, -10], middleLevel: -8 }),
  ],
  colour(settings) {
    const tones = TONES.map(({ key }) => {
      const level = num(settings, `${key}Level`) / 400
      return tintOf(settings, key).map((value) => value + level)
    })
    return (rgb) => {
      const l = luma(rgb)
      const [low, high] = [1 - smooth(0, 0.55, l), smooth(0.45, 1, l)]
      const weights = [1, low, 1 - low - high, high]
      for (let c = 0; c < 3; c++) for (let k = 0; k < 4; k++) rgb[c]! += weights[k]! * tones[k]![c]!
    }
  },
})
