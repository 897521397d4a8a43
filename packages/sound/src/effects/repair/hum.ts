import { biquad, type Biquad } from '../../dsp/biquad'
import { defineSoundEffect, number, percent, preset, type Settings } from '../define'
import { filterRow } from '../filterRow'

/** Most harmonics that are taken out. */
const MOST = 12

/** Narrow notches at the mains frequency and its multiples, mixed with what comes in by how deep they are. */
const filters = (settings: Settings): Biquad[] => {
  const base = Number(settings.mains)
  const wet = Number(settings.depth) / 100
  return Array.from({ length: Math.round(Number(settings.harmonics)) }, (_, i) => {
    const { b0, b1, b2, a1, a2 } = biquad('notch', base * (i + 1), Number(settings.narrow))
    const mix = (dry: number, notch: number) => dry * (1 - wet) + notch * wet
    return { b0: mix(1, b0), b1: mix(a1, b1), b2: mix(a2, b2), a1, a2 }
  })
}

export const hum = defineSoundEffect({
  id: 'hum',
  name: 'Hum removal',
  family: 'repair',
  hint: 'Takes the hum of mains out: 50 Hz in most of the world, 60 Hz in the Americas.',
  params: [
    number('mains', 'Mains', 40, 70, 50, { unit: 'Hz', digits: 1, step: 0.1 }),
    number('harmonics', 'Overtones', 1, MOST, 8, { digits: 0 }),
    percent('depth', 'Depth', 100),
    number('narrow', 'Narrowness (Q)', 4, 40, 18, { digits: 0 }),
  ],
  presets: [
    preset('hum50', 'Hum of 50 Hz', { mains: 50 }),
    preset('hum60', 'Hum of 60 Hz', { mains: 60 }),
    preset('buzz', 'Buzz of a lamp', { mains: 50, harmonics: 12, narrow: 24 }),
  ],
  memory: 0.6,
  ...filterRow(MOST, filters),
})
