import { luma, parts, smooth } from '../colour/tools'
import { colour, defineColour, num, percent, preset, swing, type EffectSettings } from '../define'

const TONES = [
  { key: 'shadows', name: 'Shadows' },
  { key: 'middle', name: 'Middle' },
  { key: 'lights', name: 'Lights' },
] as const

export const threeTones = defineColour({
  id: 'threeTones',
  name: 'Three tones',
  family: 'correction',
  hint: 'A colour and a level each for shadows, middle and lights.',
  params: TONES.flatMap(({ key, name }) => [
    colour(`${key}Colour`, 'Towards', '#808080', name),
    percent(`${key}Amount`, 'Amount', 50, 100, { group: name }),
    swing(`${key}Level`, 'Level', 0, { group: name }),
  ]),
  presets: [
    preset('tealEmber', 'Cool below, warm above', { shadowsColour: '#3d6f86', lightsColour: '#ffb070' }),
    preset('warmBelow', 'Warm below', { shadowsColour: '#8a5a48', lightsColour: '#9fb6d6', lightsAmount: 30 }),
    preset('moonMiddle', 'A cool middle', { middleColour: '#6f86b8', middleLevel: -8 }),
  ],
  colour(settings: EffectSettings) {
    const tones = TONES.map(({ key }) => {
      const to = parts(settings[`${key}Colour`])
      const grey = 0.2126 * to[0] + 0.7152 * to[1] + 0.0722 * to[2]
      const amount = num(settings, `${key}Amount`) / 100
      const level = num(settings, `${key}Level`) / 400
      return to.map((value) => (value - grey) * amount + level)
    })
    return (rgb) => {
      const l = luma(rgb)
      const [low, high] = [1 - smooth(0, 0.55, l), smooth(0.45, 1, l)]
      const weights = [low, 1 - low - high, high]
      for (let c = 0; c < 3; c++)
        rgb[c]! += weights[0]! * tones[0]![c]! + weights[1]! * tones[1]![c]! + weights[2]! * tones[2]![c]!
    }
  },
})
