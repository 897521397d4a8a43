import { amplitude } from '../../dsp/maths'
import { biquad, FilterRow, rowOf } from '../../dsp/biquad'
import { db, defineSoundEffect, hz, kept, percent, preset, type Settings } from '../define'

/** Bends a wave softly towards ±1: x / (1 + |x|), which has no kink and needs no tables. */
const bend = (x: number) => x / (1 + (x < 0 ? -x : x))

export const drive = defineSoundEffect({
  id: 'drive',
  name: 'Drive',
  family: 'character',
  hint: 'Bends the wave: warm at a little, broken at a lot.',
  params: [
    db('drive', 'Drive', 0, 36, 8),
    hz('tone', 'Duller above', 9000, 1000, 20_000),
    db('out', 'Out', -24, 12, 0),
  ],
  presets: [
    preset('warm', 'Warm', { drive: 5, tone: 12_000 }),
    preset('broken', 'Broken speaker', { drive: 26, tone: 4500, out: -4 }),
  ],
  memory: 0.2,
  create() {
    const settingsOf = kept((settings: Settings) => {
      const gain = amplitude(Number(settings.drive))
      return {
        gain,
        // As loud as before for a sound of −12 dB.
        out: (amplitude(Number(settings.out)) * 0.25) / bend(0.25 * gain),
        tone: rowOf([biquad('lowPass', Number(settings.tone), Math.SQRT1_2)]),
      }
    })
    const filter = new FilterRow(1)
    return {
      process(left, right, settings) {
        const { gain, out, tone } = settingsOf(settings)
        for (let i = 0; i < left.length; i++) {
          left[i] = bend(left[i]! * gain) * out
          right[i] = bend(right[i]! * gain) * out
        }
        filter.run(tone, left, right)
      },
    }
  },
})

export const device = defineSoundEffect({
  id: 'device',
  name: 'Small speaker',
  family: 'character',
  hint: 'As it comes out of something small: a telephone, a radio, a loudspeaker on deck.',
  params: [
    hz('low', 'From', 300, 20, 4000),
    hz('high', 'To', 3400, 500, 20_000),
    db('ring', 'Ring in the middle', 0, 18, 4),
    db('drive', 'Drive', 0, 36, 6),
    percent('mono', 'To the middle', 100),
  ],
  presets: [
    preset('telephone', 'Telephone', { low: 300, high: 3400, ring: 4, drive: 6 }),
    preset('oldRadio', 'Old radio', { low: 180, high: 5200, ring: 7, drive: 12 }),
    preset('deckLoudspeaker', 'Deck loudspeaker', { low: 420, high: 4200, ring: 11, drive: 18 }),
    preset('throughWall', 'Through a wall', { low: 40, high: 520, ring: 2, drive: 0 }),
    preset('earpiece', 'Left-behind earphone', { low: 1400, high: 7500, ring: 3, drive: 0 }),
    preset('marineRadio', 'Marine radio', { low: 600, high: 2600, ring: 8, drive: 24 }),
  ],
  memory: 0.2,
  create() {
    const settingsOf = kept((settings: Settings) => {
      const [low, high] = [Number(settings.low), Number(settings.high)]
      const gain = amplitude(Number(settings.drive))
      const ends = [biquad('highPass', low, Math.SQRT1_2), biquad('lowPass', high, Math.SQRT1_2)]
      return {
        before: rowOf(ends),
        after: rowOf([...ends, biquad('peak', Math.sqrt(low * high), 1.2, Number(settings.ring))]),
        gain,
        out: 0.25 / bend(0.25 * gain),
        mono: Number(settings.mono) / 100,
        driven: Number(settings.drive) > 0,
      }
    })
    const [first, second] = [new FilterRow(2), new FilterRow(3)]
    return {
      process(left, right, settings) {
        const { before, after, gain, out, mono, driven } = settingsOf(settings)
        for (let i = 0; i < left.length; i++) {
          const middle = (left[i]! + right[i]!) / 2
          left[i]! += (middle - left[i]!) * mono
          right[i]! += (middle - right[i]!) * mono
        }
        first.run(before, left, right)
        if (driven)
          for (let k = 0; k < left.length; k++) {
            left[k] = bend(left[k]! * gain) * out
            right[k] = bend(right[k]! * gain) * out
          }
        second.run(after, left, right)
      },
    }
  },
})
