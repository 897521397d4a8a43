import { biquad, FilterState } from '../../dsp/biquad'
import { defineSoundEffect, hz, kept, percent, preset, type Settings } from '../define'

export const width = defineSoundEffect({
  id: 'width',
  name: 'Width',
  family: 'space',
  hint: 'Makes stereo wider or narrower; the lows can stay in the middle.',
  params: [percent('width', 'Width', 130, 250), hz('lows', 'Lows in the middle below', 120, 20, 1000)],
  presets: [
    preset('wider', 'Wider', { width: 150 }),
    preset('muchWider', 'Much wider', { width: 210, lows: 200 }),
    preset('narrow', 'Narrow', { width: 40 }),
  ],
  memory: 0.2,
  create() {
    const settingsOf = kept((settings: Settings) => ({
      by: Number(settings.width) / 100,
      high: biquad('highPass', Number(settings.lows), Math.SQRT1_2),
    }))
    const state = new FilterState()
    return {
      process(left, right, settings) {
        const { by, high } = settingsOf(settings)
        for (let i = 0; i < left.length; i++) {
          const middle = (left[i]! + right[i]!) / 2
          const side = state.step(high, (left[i]! - right[i]!) / 2) * by
          left[i] = middle + side
          right[i] = middle - side
        }
      },
    }
  },
})
