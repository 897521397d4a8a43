import { biquad, type Biquad } from '../../dsp/biquad'
import { db, defineSoundEffect, hz, number, preset, type Settings } from '../define'
import { filterRow } from '../filterRow'

/** Bands from low to high: a shelf at each end, peaks between. */
const BANDS = [
  { kind: 'lowShelf', name: 'Lows', hz: 100, q: 0.7 },
  { kind: 'peak', name: 'Low mids', hz: 300, q: 1 },
  { kind: 'peak', name: 'Mids', hz: 1000, q: 1 },
  { kind: 'peak', name: 'High mids', hz: 3500, q: 1 },
  { kind: 'highShelf', name: 'Highs', hz: 9000, q: 0.7 },
] as const
export const EQUALISER_BANDS = BANDS.length

const filters = (settings: Settings): Biquad[] =>
  BANDS.map(({ kind }, i) =>
    biquad(kind, Number(settings[`hz${i + 1}`]), Number(settings[`q${i + 1}`]), Number(settings[`gain${i + 1}`])),
  )

export const equaliser = defineSoundEffect({
  id: 'equaliser',
  name: 'Equaliser',
  family: 'tone',
  hint: 'Makes parts of the sound louder or quieter: drag the points of the curve.',
  params: BANDS.flatMap((band, i) => [
    db(`gain${i + 1}`, 'Gain', -24, 24, 0, { group: band.name }),
    hz(`hz${i + 1}`, 'At', band.hz, 20, 20_000, { group: band.name }),
    number(`q${i + 1}`, 'Width (Q)', 0.1, 18, band.q, { digits: 2, step: 0.01, group: band.name }),
  ]),
  presets: [
    preset('clearVoice', 'Clear voice', {
      gain1: -4,
      hz1: 120,
      gain2: -2.5,
      hz2: 350,
      gain4: 3,
      hz4: 3800,
      gain5: 1.5,
    }),
    preset('warmVoice', 'Warm voice', { gain1: 2.5, hz1: 180, gain3: -1.5, gain5: -2 }),
    preset('lessMud', 'Less mud', { gain2: -5, hz2: 280, q2: 0.9 }),
    preset('lessHarsh', 'Less harsh', { gain4: -4.5, hz4: 3200, q4: 1.2, gain5: -1.5 }),
    preset('roomForWords', 'Room for words', { gain3: -3, hz3: 1600, q3: 0.6, gain4: -3, hz4: 3000, q4: 0.7 }),
    preset('smile', 'Low and bright', { gain1: 4, gain3: -2, gain5: 4 }),
  ],
  memory: 0.25,
  ...filterRow(EQUALISER_BANDS, filters),
})
