import { decibelsToGain } from '../../decibels'
import { db, defineSoundEffect, kept, preset, type Settings } from '../define'

export const gain = defineSoundEffect({
  id: 'gain',
  name: 'Gain',
  family: 'level',
  hint: 'Louder or quieter at this place of the stack, and each side by itself.',
  params: [
    db('gain', 'Gain', -96, 24, 0),
    db('left', 'Left', -96, 24, 0),
    db('right', 'Right', -96, 24, 0),
    { kind: 'switch', key: 'flip', label: 'Turn the right one over', default: false, fixed: true },
  ],
  presets: [preset('up6', 'Twice as loud', { gain: 6 }), preset('flipRight', 'Right one turned over', { flip: true })],
  memory: 0.05,
  create() {
    const settingsOf = kept((settings: Settings) => {
      const factor = (value: unknown) => decibelsToGain(Number(value))
      const both = factor(settings.gain)
      return [both * factor(settings.left), both * factor(settings.right) * (settings.flip ? -1 : 1)] as const
    })
    let [l, r] = [Number.NaN, Number.NaN]
    return {
      process(left, right, settings) {
        const [toLeft, toRight] = settingsOf(settings)
        if (Number.isNaN(l)) [l, r] = [toLeft, toRight]
        const [byLeft, byRight] = [(toLeft - l) / left.length, (toRight - r) / left.length]
        for (let i = 0; i < left.length; i++) {
          left[i]! *= l + byLeft * (i + 1)
          right[i]! *= r + byRight * (i + 1)
        }
        ;[l, r] = [toLeft, toRight]
      },
    }
  },
})
