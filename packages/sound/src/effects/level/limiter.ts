import { DelayLine } from '../../dsp/delayLine'
import { amplitude, smoothing } from '../../dsp/maths'
import { BlockPeaks, PEAK_DELAY } from '../../dsp/oversample'
import { db, defineSoundEffect, kept, ms, preset, type Settings } from '../define'

/** Samples looked ahead: 5.3 ms, in which the gain comes down. */
const AHEAD = 256

export const limiter = defineSoundEffect({
  id: 'limiter',
  name: 'Limiter',
  family: 'level',
  hint: 'Nothing comes out louder than the ceiling, also between samples (true peak).',
  params: [
    db('drive', 'Louder by', 0, 24, 0),
    db('ceiling', 'Ceiling', -24, 0, -1),
    ms('release', 'Release', 5, 1000, 80),
  ],
  presets: [
    preset('safe', 'Safe for upload', { ceiling: -1 }),
    preset('louder', 'Louder, still safe', { drive: 6, ceiling: -1 }),
    preset('muchLouder', 'Much louder', { drive: 12, ceiling: -1, release: 120 }),
  ],
  latency: AHEAD,
  memory: 1,
  create() {
    const settingsOf = kept((settings: Settings) => ({
      drive: amplitude(Number(settings.drive)),
      // A hair below: the meter's filter and a player's are not the same.
      ceiling: amplitude(Number(settings.ceiling) - 0.1),
      release: smoothing(Number(settings.release)),
    }))
    const [pastLeft, pastRight] = [new DelayLine(AHEAD), new DelayLine(AHEAD)]
    const peaksOf = new BlockPeaks()
    const window = AHEAD - PEAK_DELAY
    // The lowest gain wanted within the window, kept in order so that each sample is looked at once.
    const wanted = new Float64Array(window + 1)
    const times = new Int32Array(window + 1)
    let [head, count, now] = [0, 0, 0]
    const smooth = new Float64Array(window)
    let sum = window
    smooth.fill(1)
    let held = 1
    const lowest = (gain: number): number => {
      const size = window + 1
      while (count > 0 && wanted[(head + count - 1) % size]! >= gain) count--
      wanted[(head + count) % size] = gain
      times[(head + count) % size] = now
      count++
      if (times[head]! <= now - window) {
        head = (head + 1) % size
        count--
      }
      return wanted[head]!
    }
    const effect = {
      reduction: 0,
      process(left: Float32Array, right: Float32Array, settings: Settings) {
        const { drive, ceiling, release } = settingsOf(settings)
        let least = 1
        for (let i = 0; i < left.length; i++) {
          left[i]! *= drive
          right[i]! *= drive
        }
        const peaks = peaksOf.run(left, right)
        for (let i = 0; i < left.length; i++) {
          const peak = peaks[i]!
          pastLeft.push(left[i]!)
          pastRight.push(right[i]!)
          const floor = lowest(peak > ceiling ? ceiling / peak : 1)
          held = floor < held ? floor : floor + (held - floor) * release
          // A running mean over the window: the gain glides down and is there when the peak is.
          const slot = now % window
          sum += held - smooth[slot]!
          smooth[slot] = held
          now++
          const gain = Math.min(1, sum / window)
          if (gain < least) least = gain
          left[i] = pastLeft.at(AHEAD) * gain
          right[i] = pastRight.at(AHEAD) * gain
        }
        if (now > 1e9) now = now % window
        effect.reduction = least < 1 ? 20 * Math.log10(least) : 0
      },
    }
    return effect
  },
  transfer(settings) {
    return (level) => Math.min(level + Number(settings.drive), Number(settings.ceiling))
  },
})
