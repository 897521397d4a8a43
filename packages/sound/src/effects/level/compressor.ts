import { soundKernels } from '../../dsp/kernels'
import { amplitude } from '../../dsp/maths'
import { db, defineSoundEffect, kept, ms, number, preset, type Settings } from '../define'
import { compressed, timing } from './dynamics'

const curve = (settings: Settings) => ({
  threshold: Number(settings.threshold),
  ratio: Number(settings.ratio),
  knee: Number(settings.knee),
  makeup: amplitude(Number(settings.makeup)),
  ...timing(Number(settings.attack), Number(settings.release)),
})

export const compressor = defineSoundEffect({
  id: 'compressor',
  name: 'Compressor',
  family: 'level',
  hint: 'Evens loud and quiet out: what is louder than the threshold is held down.',
  params: [
    db('threshold', 'Threshold', -60, 0, -20),
    number('ratio', 'Ratio', 1, 20, 3, { unit: ': 1', digits: 1, step: 0.1 }),
    db('knee', 'Knee', 0, 24, 6),
    ms('attack', 'Attack', 0.1, 200, 10),
    ms('release', 'Release', 10, 2000, 150),
    db('makeup', 'Louder again by', 0, 24, 0),
  ],
  presets: [
    preset('evenVoice', 'Even voice', { threshold: -24, ratio: 3, attack: 8, release: 180, makeup: 5 }),
    preset('closeVoice', 'Close and steady', { threshold: -30, ratio: 5, attack: 4, release: 120, makeup: 9 }),
    preset('calmMusic', 'Calm music', { threshold: -18, ratio: 2, attack: 30, release: 300, makeup: 2 }),
    preset('glue', 'Hold together', { threshold: -14, ratio: 1.8, attack: 25, release: 220, makeup: 1.5 }),
    preset('tameShouts', 'Tame shouts', { threshold: -12, ratio: 8, attack: 2, release: 90 }),
  ],
  memory: 1.5,
  create() {
    const settingsOf = kept(curve)
    const state = new Float64Array(6)
    const effect = {
      reduction: 0,
      process(left: Float32Array, right: Float32Array, settings: Settings) {
        const { threshold, ratio, knee, makeup, attack, release } = settingsOf(settings)
        const kernels = soundKernels()
        kernels.left.set(left)
        kernels.right.set(right)
        kernels.compressor.set(state)
        kernels.compress(threshold - knee / 2, knee, 1 / ratio - 1, attack, release, makeup)
        state.set(kernels.compressor)
        effect.reduction = state[1]!
        left.set(kernels.left)
        right.set(kernels.right)
      },
    }
    return effect
  },
  transfer(settings) {
    const { threshold, ratio, knee } = curve(settings)
    return (level) => compressed(level, threshold, ratio, knee) + Number(settings.makeup)
  },
})
