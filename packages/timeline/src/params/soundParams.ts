import type { Param } from './spec'

/** Settings of a line of loudness: over clips, tracks and whole reels. 0 leaves a sound as it is. */
const LEVEL: Param = {
  kind: 'number',
  key: 'level',
  label: 'Level',
  group: 'Level',
  min: -96,
  max: 24,
  default: 0,
  unit: 'dB',
  step: 0.1,
  digits: 1,
  hint: 'The line on the clip: it can change over time; −96 is silence',
}
const PAN: Param = {
  kind: 'number',
  key: 'pan',
  label: 'Pan',
  group: 'Level',
  min: -100,
  max: 100,
  default: 0,
  digits: 0,
  hint: '−100 is all left, 100 all right',
}

/** Which channels of a source go where, once it is stereo. */
export const CHANNEL_CHOICES = [
  { value: 'asIs', label: 'As it is' },
  { value: 'swapped', label: 'Left and right swapped' },
  { value: 'mono', label: 'Both to the middle' },
  { value: 'left', label: 'Left one on both sides' },
  { value: 'right', label: 'Right one on both sides' },
] as const
export type ChannelChoice = (typeof CHANNEL_CHOICES)[number]['value']

/** What a sound does when its clip is not played at its own speed. */
export const PITCH_CHOICES = [
  { value: 'keep', label: 'Keep the pitch' },
  { value: 'follow', label: 'Pitch goes with the speed' },
  { value: 'silent', label: 'Silent' },
] as const
export type PitchChoice = (typeof PITCH_CHOICES)[number]['value']

/** How a sound is stretched when its pitch is kept. */
export const STRETCH_CHOICES = [
  { value: 'auto', label: 'By what the track is for' },
  { value: 'music', label: 'Smooth, for music' },
  { value: 'speech', label: 'Crisp, for speech and steps' },
] as const
export type StretchChoice = (typeof STRETCH_CHOICES)[number]['value']

const side = (key: string, label: string): Param => ({
  kind: 'number',
  key,
  label,
  group: 'Channels',
  min: -96,
  max: 24,
  default: 0,
  unit: 'dB',
  step: 0.1,
  digits: 1,
})

/** Settings of every clip with a sound. Keyframes are in clip time. */
export const CLIP_SOUND_PARAMS: readonly Param[] = [
  LEVEL,
  PAN,
  {
    kind: 'choice',
    key: 'channels',
    label: 'Channels',
    group: 'Channels',
    default: 'asIs',
    fixed: true,
    options: CHANNEL_CHOICES,
  },
  side('leftLevel', 'Left'),
  side('rightLevel', 'Right'),
  {
    kind: 'number',
    key: 'pitch',
    label: 'Pitch shift',
    group: 'Pitch',
    min: -24,
    max: 24,
    default: 0,
    unit: 'semitones',
    step: 0.1,
    digits: 1,
    fixed: true,
  },
  {
    kind: 'choice',
    key: 'pitchMode',
    label: 'At another speed',
    group: 'Pitch',
    default: 'keep',
    fixed: true,
    options: PITCH_CHOICES,
  },
  {
    kind: 'choice',
    key: 'stretcher',
    label: 'Stretching',
    group: 'Pitch',
    default: 'auto',
    fixed: true,
    options: STRETCH_CHOICES,
  },
  {
    kind: 'switch',
    key: 'anySpeed',
    label: 'Heard at any speed',
    group: 'Pitch',
    default: false,
    fixed: true,
    hint: 'Below a quarter and beyond four times its speed a sound is silent unless this is on',
  },
]

/** Settings of a whole sound track. Keyframes are in reel time. */
export const TRACK_SOUND_PARAMS: readonly Param[] = [LEVEL, PAN]

/** Settings of all that is heard of a reel. Keyframes are in reel time. */
export const REEL_SOUND_PARAMS: readonly Param[] = [LEVEL]
