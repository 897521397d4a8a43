import { db, defineSoundEffect, kept, ms, preset, type Settings } from '../define'
import { GainFollower, louder, timing } from './dynamics'

export const gate = defineSoundEffect({
  id: 'gate',
  name: 'Gate',
  family: 'level',
  hint: 'Turns down what is quieter than the threshold: the room between sentences.',
  params: [
    db('threshold', 'Threshold', -90, 0, -45),
    db('range', 'Down by', 0, 80, 24),
    db('slack', 'Closes below that by', 0, 20, 6),
    ms('attack', 'Attack', 0.1, 100, 3),
    ms('hold', 'Hold', 0, 1000, 120),
    ms('release', 'Release', 10, 2000, 180),
  ],
  presets: [
    preset('quietRoom', 'Quieter room', { threshold: -45, range: 12, release: 250 }),
    preset('silence', 'Silence between words', { threshold: -40, range: 60 }),
  ],
  memory: 2,
  create() {
    const settingsOf = kept((settings: Settings) => ({
      threshold: Number(settings.threshold),
      closes: Number(settings.threshold) - Number(settings.slack),
      range: -Number(settings.range),
      hold: Number(settings.hold) * 48,
      ...timing(Number(settings.attack), Number(settings.release)),
    }))
    const follower = new GainFollower()
    let open = false
    let waited = 0
    const effect = {
      reduction: 0,
      process(left: Float32Array, right: Float32Array, settings: Settings) {
        const { threshold, closes, range, hold, attack, release } = settingsOf(settings)
        let lowest = 0
        for (let i = 0; i < left.length; i++) {
          const level = louder(left[i]!, right[i]!)
          if (level >= threshold) [open, waited] = [true, 0]
          else if (level < closes && open && ++waited > hold) open = false
          // Opening is the quick one here.
          const gain = follower.step(open ? 0 : range, release, attack)
          if (follower.decibels < lowest) lowest = follower.decibels
          left[i]! *= gain
          right[i]! *= gain
        }
        effect.reduction = lowest
      },
    }
    return effect
  },
  transfer(settings) {
    return (level) => (level >= Number(settings.threshold) ? level : level - Number(settings.range))
  },
})
