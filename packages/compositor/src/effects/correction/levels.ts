import { clamp, gamma } from '../colour/tools'
import { defineColour, num, number, percent, preset } from '../define'

export const levels = defineColour({
  id: 'levels',
  name: 'Levels',
  family: 'correction',
  hint: 'What becomes black, what becomes white, and where the middle lies.',
  params: [
    percent('inBlack', 'Black from', 0),
    percent('inWhite', 'White from', 100),
    number('middle', 'Middle', 0.2, 5, 1, { digits: 2, step: 0.01 }),
    percent('outBlack', 'Black to', 0),
    percent('outWhite', 'White to', 100),
  ],
  presets: [
    preset('clearHaze', 'Clear the haze', { inBlack: 9, inWhite: 94, middle: 0.95 }),
    preset('softEnds', 'Soft ends', { outBlack: 6, outWhite: 95 }),
  ],
  colour(settings) {
    const low = num(settings, 'inBlack') / 100
    const high = Math.max(low + 0.005, num(settings, 'inWhite') / 100)
    const bend = gamma(1 / num(settings, 'middle'))
    const [from, to] = [num(settings, 'outBlack') / 100, num(settings, 'outWhite') / 100]
    return (rgb) => {
      for (let c = 0; c < 3; c++) rgb[c] = from + (to - from) * bend(clamp((rgb[c]! - low) / (high - low)))
    }
  },
})
