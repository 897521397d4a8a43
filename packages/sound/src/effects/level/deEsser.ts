import { biquad, FilterState } from '../../dsp/biquad'
import { db, defineSoundEffect, hz, kept, preset, type Settings } from '../define'
import { compressed, GainFollower, louder, timing } from './dynamics'

export const deEsser = defineSoundEffect({
  id: 'deEsser',
  name: 'De-esser',
  family: 'level',
  hint: 'Holds sharp s and t sounds down, and nothing else.',
  params: [
    db('threshold', 'Threshold', -60, 0, -30),
    db('most', 'At most by', 0, 24, 9),
    hz('hz', 'Above', 5500, 2000, 12_000),
  ],
  presets: [
    preset('gentleS', 'Gentle', { threshold: -26, most: 5 }),
    preset('strictS', 'Strict', { threshold: -36, most: 14 }),
  ],
  memory: 0.5,
  create() {
    const settingsOf = kept((settings: Settings) => ({
      threshold: Number(settings.threshold),
      most: -Number(settings.most),
      low: biquad('lowPass', Number(settings.hz), Math.SQRT1_2),
      ...timing(1, 60),
    }))
    const states = [new FilterState(), new FilterState()] as const
    const follower = new GainFollower()
    const effect = {
      reduction: 0,
      process(left: Float32Array, right: Float32Array, settings: Settings) {
        const { threshold, most, low, attack, release } = settingsOf(settings)
        let lowest = 0
        for (let i = 0; i < left.length; i++) {
          const [l, r] = [states[0].step(low, left[i]!), states[1].step(low, right[i]!)]
          // What the low pass leaves out is the part that hisses.
          const [hl, hr] = [left[i]! - l, right[i]! - r]
          const level = louder(hl, hr)
          const wanted = Math.max(most, compressed(level, threshold, 6, 4) - level)
          const gain = follower.step(wanted, attack, release)
          if (follower.decibels < lowest) lowest = follower.decibels
          left[i] = l + hl * gain
          right[i] = r + hr * gain
        }
        effect.reduction = lowest
      },
    }
    return effect
  },
  transfer(settings) {
    const threshold = Number(settings.threshold)
    return (level) => Math.max(level - Number(settings.most), compressed(level, threshold, 6, 4))
  },
})
