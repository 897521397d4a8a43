import { biquad, FilterState } from '../../dsp/biquad'
import { DelayLine } from '../../dsp/delayLine'
import { defineSoundEffect, hz, kept, ms, percent, preset, type Settings } from '../define'

export const echo = defineSoundEffect({
  id: 'echo',
  name: 'Echo',
  family: 'space',
  hint: 'Sends the sound back, again and again, each time a little duller.',
  params: [
    ms('time', 'After', 20, 2000, 320),
    percent('feedback', 'Comes again', 35, 95),
    percent('mix', 'Echo', 30),
    percent('bounce', 'From side to side', 0),
    hz('dull', 'Duller above', 4500, 500, 20_000),
  ],
  presets: [
    preset('slap', 'Quay wall', { time: 110, feedback: 10, mix: 28 }),
    preset('acrossWater', 'Across the water', { time: 480, feedback: 42, mix: 30, dull: 2800 }),
    preset('sideToSide', 'Side to side', { time: 300, feedback: 45, mix: 35, bounce: 100 }),
  ],
  memory: 5,
  create() {
    const [lineLeft, lineRight] = [new DelayLine(96_000), new DelayLine(96_000)]
    const [dullLeft, dullRight] = [new FilterState(), new FilterState()]
    const settingsOf = kept((settings: Settings) => ({
      feedback: Number(settings.feedback) / 100,
      mix: Number(settings.mix) / 100,
      bounce: Number(settings.bounce) / 100,
      dull: biquad('lowPass', Number(settings.dull), Math.SQRT1_2),
    }))
    let time = -1
    return {
      process(left, right, settings) {
        const { feedback, mix, bounce, dull } = settingsOf(settings)
        const wanted = Number(settings.time) * 48
        if (time < 0) time = wanted
        for (let i = 0; i < left.length; i++) {
          // Gliding to a new time bends the pitch for a moment and does not click.
          time += (wanted - time) * 0.0005
          const l = dullLeft.step(dull, lineLeft.between(time))
          const r = dullRight.step(dull, lineRight.between(time))
          const middle = (left[i]! + right[i]!) / 2
          lineLeft.push(left[i]! * (1 - bounce) + middle * bounce + (l * (1 - bounce) + r * bounce) * feedback)
          lineRight.push(right[i]! * (1 - bounce) + (r * (1 - bounce) + l * bounce) * feedback)
          left[i]! += l * mix
          right[i]! += r * mix
        }
      },
    }
  },
})
