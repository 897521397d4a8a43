import { biquad, type BiquadKind } from '../../dsp/biquad'
import { defineSoundEffect, hz, preset, type Settings, type SoundEffectKind, type SoundPreset } from '../define'
import { filterRow } from '../filterRow'

/** Q of the two stages of a fourth-order Butterworth filter. */
const STAGES = [0.541196100146197, 1.306562964876377]

/** A pass filter of 12 or 24 dB an octave. */
function pass(
  id: string,
  name: string,
  hint: string,
  kind: BiquadKind,
  initial: number,
  presets: readonly SoundPreset[],
): SoundEffectKind {
  const filters = (settings: Settings) =>
    settings.slope === 'steep'
      ? STAGES.map((q) => biquad(kind, Number(settings.hz), q))
      : [biquad(kind, Number(settings.hz), Math.SQRT1_2)]
  return defineSoundEffect({
    id,
    name,
    family: 'tone',
    hint,
    params: [
      hz('hz', 'From', initial),
      {
        kind: 'choice',
        key: 'slope',
        label: 'Slope',
        default: 'gentle',
        fixed: true,
        options: [
          { value: 'gentle', label: 'Gentle (12 dB an octave)' },
          { value: 'steep', label: 'Steep (24 dB an octave)' },
        ],
      },
    ],
    presets,
    memory: 0.25,
    ...filterRow(STAGES.length, filters),
  })
}

export const highPass = pass(
  'highPass',
  'High pass',
  'Takes away what is lower: rumble, wind, bumps of the microphone.',
  'highPass',
  80,
  [
    preset('rumble', 'No rumble', { hz: 80, slope: 'steep' }),
    preset('wind', 'Less wind', { hz: 160, slope: 'steep' }),
    preset('thin', 'Thin', { hz: 500 }),
  ],
)

export const lowPass = pass('lowPass', 'Low pass', 'Takes away what is higher: hiss, glare.', 'lowPass', 12_000, [
  preset('soften', 'Soften', { hz: 9000 }),
  preset('nextRoom', 'In the next room', { hz: 900, slope: 'steep' }),
  preset('underWater', 'Under water', { hz: 380, slope: 'steep' }),
])
