import { clamp, luma, parts } from '../colour/tools'
import { colour, defineColour, num, number, percent, preset } from '../define'

export const posterise = defineColour({
  id: 'posterise',
  name: 'Few colours',
  family: 'stylise',
  hint: 'Each channel in a few steps, as on a printed poster.',
  params: [number('steps', 'Steps', 2, 24, 5, { digits: 0 })],
  presets: [preset('threeInks', 'Three inks', { steps: 3 }), preset('poster', 'Poster', { steps: 6 })],
  colour(settings) {
    const last = Math.round(num(settings, 'steps')) - 1
    return (rgb) => {
      for (let c = 0; c < 3; c++) rgb[c] = Math.round(clamp(rgb[c]!) * last) / last
    }
  },
})

export const solarise = defineColour({
  id: 'solarise',
  name: 'Turned light',
  family: 'stylise',
  hint: 'What is brighter than a level turns dark again.',
  params: [percent('from', 'From', 55)],
  colour(settings) {
    const from = num(settings, 'from') / 100
    return (rgb) => {
      for (let c = 0; c < 3; c++)
        if (rgb[c]! > from) rgb[c] = from - (rgb[c]! - from) * (from / Math.max(0.05, 1 - from))
    }
  },
})

export const negative = defineColour({
  id: 'negative',
  name: 'Negative',
  family: 'stylise',
  hint: 'Dark is bright and bright is dark.',
  colour: () => (rgb) => {
    for (let c = 0; c < 3; c++) rgb[c] = 1 - rgb[c]!
  },
})

export const oneColour = defineColour({
  id: 'oneColour',
  name: 'One colour',
  family: 'stylise',
  hint: 'All in shades of one colour.',
  params: [
    colour('colour', 'Colour', '#c9a36b'),
    percent('red', 'Of red', 30),
    percent('green', 'Of green', 59),
    percent('blue', 'Of blue', 11),
  ],
  presets: [
    preset('sepia', 'Tea and paper', { colour: '#c9a36b' }),
    preset('cyanPrint', 'Blueprint', { colour: '#5c8fc9' }),
    preset('redGlass', 'Through red glass', { colour: '#ffffff', red: 90, green: 10, blue: 0 }),
  ],
  colour(settings) {
    const to = parts(settings.colour)
    const own = Math.max(0.05, 0.2126 * to[0] + 0.7152 * to[1] + 0.0722 * to[2])
    const share = ['red', 'green', 'blue'].map((key) => num(settings, key))
    const sum = Math.max(1, share[0]! + share[1]! + share[2]!)
    return (rgb) => {
      const l = clamp((rgb[0]! * share[0]! + rgb[1]! * share[1]! + rgb[2]! * share[2]!) / sum)
      // White stays white, black black; the colour lies between.
      for (let c = 0; c < 3; c++) rgb[c] = l + (to[c]! / own - 1) * l * (1 - l) * 1.2
    }
  },
})

export const twoTone = defineColour({
  id: 'twoTone',
  name: 'Two tones',
  family: 'stylise',
  hint: 'Dark becomes one colour, bright another.',
  params: [colour('dark', 'Dark', '#2a1f4d'), colour('bright', 'Bright', '#ffb98a')],
  presets: [
    preset('plumPeach', 'Plum and peach', { dark: '#2a1f4d', bright: '#ffb98a' }),
    preset('seaFoam', 'Sea and foam', { dark: '#0c3340', bright: '#e4f3e6' }),
    preset('mossMilk', 'Moss and milk', { dark: '#1f331f', bright: '#f4eeda' }),
  ],
  colour(settings) {
    const [dark, bright] = [parts(settings.dark), parts(settings.bright)]
    return (rgb) => {
      const l = clamp(luma(rgb))
      for (let c = 0; c < 3; c++) rgb[c] = dark[c]! + (bright[c]! - dark[c]!) * l
    }
  },
})

const HEAT = ['#0b0730', '#3d1a78', '#b0306a', '#f2703a', '#ffd166', '#fffbe6'].map(parts)

export const heat = defineColour({
  id: 'heat',
  name: 'Seen as heat',
  family: 'stylise',
  hint: 'Dark is cold, bright is hot.',
  colour: () => (rgb) => {
    const at = clamp(luma(rgb)) * (HEAT.length - 1)
    const i = Math.min(HEAT.length - 2, Math.floor(at))
    for (let c = 0; c < 3; c++) rgb[c] = HEAT[i]![c]! + (HEAT[i + 1]![c]! - HEAT[i]![c]!) * (at - i)
  },
})

export const inkOnly = defineColour({
  id: 'inkOnly',
  name: 'Ink on paper',
  family: 'stylise',
  hint: 'Black and white and nothing between.',
  params: [
    percent('level', 'Level', 45),
    percent('softness', 'Softness', 6),
    colour('ink', 'Ink', '#1b1724'),
    colour('paper', 'Paper', '#f3ece2'),
  ],
  colour(settings) {
    const level = num(settings, 'level') / 100
    const soft = 0.004 + num(settings, 'softness') / 200
    const [ink, paper] = [parts(settings.ink), parts(settings.paper)]
    return (rgb) => {
      const t = clamp((luma(rgb) - level) / soft / 2 + 0.5)
      for (let c = 0; c < 3; c++) rgb[c] = ink[c]! + (paper[c]! - ink[c]!) * t
    }
  },
})
