import { chroma, clamp, luma, saturate, smooth } from '../colour/tools'
import { choice, defineColour, percent, preset, num } from '../define'

const DYES = {
  magenta: [0.42, 0.26, 0.33],
  amber: [0.44, 0.33, 0.2],
  cyan: [0.24, 0.36, 0.4],
} as const

export const fadedPrint = defineColour({
  id: 'fadedPrint',
  name: 'Faded print',
  family: 'film',
  hint: 'Dyes that have gone: shadows take a colour, lights are yellowed, little of the rest is left.',
  params: [
    percent('age', 'Age', 60),
    choice('dye', 'What is left', { magenta: 'Rose', amber: 'Amber', cyan: 'Blue-green' }),
  ],
  presets: [preset('shoeBox', 'From a shoe box', { age: 80, dye: 'amber' })],
  colour(settings) {
    const age = num(settings, 'age') / 100
    const dye = DYES[settings.dye as keyof typeof DYES] ?? DYES.magenta
    return (rgb) => {
      saturate(rgb, 1 - 0.55 * age)
      const l = clamp(luma(rgb))
      const [low, high] = [1 - smooth(0, 0.7, l), smooth(0.5, 1, l)]
      const kept = 1 - 0.35 * age * (1 - chroma(rgb))
      for (let c = 0; c < 3; c++) {
        const flat = 0.5 + (rgb[c]! - 0.5) * (1 - 0.3 * age)
        rgb[c] = flat * kept + (1 - kept) * l + age * (dye[c]! - 0.33) * (0.25 + low * 0.8) + low * 0.05 * age
      }
      rgb[2]! -= high * 0.1 * age
    }
  },
})
