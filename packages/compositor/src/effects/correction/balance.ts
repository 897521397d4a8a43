import { chroma, clamp, luma, saturate } from '../colour/tools'
import { defineColour, num, preset, swing } from '../define'

export const balance = defineColour({
  id: 'balance',
  name: 'Colour',
  family: 'correction',
  hint: 'Warmer or cooler, greener or pinker, more or less colour.',
  params: [
    swing('temperature', 'Warmth', 0, { hint: 'Above zero warmer, below cooler' }),
    swing('tint', 'Tint', 0, { hint: 'Above zero pinker, below greener' }),
    swing('saturation', 'Saturation'),
    swing('vibrance', 'Vibrance', 0, { hint: 'Saturation of what has little of it' }),
  ],
  presets: [
    preset('lampLight', 'Out of lamp light', { temperature: -35, tint: 6 }),
    preset('overcast', 'Out of the overcast', { temperature: 22, vibrance: 20 }),
    preset('richer', 'Richer', { vibrance: 45, saturation: 8 }),
    preset('quieter', 'Quieter', { saturation: -30 }),
  ],
  colour(settings) {
    const warm = num(settings, 'temperature') / 100
    const pink = num(settings, 'tint') / 100
    const saturation = 1 + num(settings, 'saturation') / 100
    const vibrance = num(settings, 'vibrance') / 100
    const by = [1 + 0.28 * warm + 0.08 * pink, 1 + 0.03 * warm - 0.16 * pink, 1 - 0.32 * warm + 0.08 * pink]
    // As bright as before: what grey is multiplied by comes to one.
    const grey = 0.2126 * by[0]! + 0.7152 * by[1]! + 0.0722 * by[2]!
    return (rgb) => {
      const before = luma(rgb)
      for (let c = 0; c < 3; c++) rgb[c]! *= by[c]! / grey
      const after = luma(rgb)
      for (let c = 0; c < 3; c++) rgb[c]! += before - after
      saturate(rgb, Math.max(0, saturation * (1 + vibrance * (1 - clamp(chroma(rgb))))))
    }
  },
})
