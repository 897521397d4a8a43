import type { Point } from './animated'
import { BLEND_MODES, type BlendMode } from './blendModes'
import { CLIP_SOUND_PARAMS, REEL_SOUND_PARAMS, TRACK_SOUND_PARAMS } from './soundParams'
import { paramsSchema, resolveParams, type Param, type Params } from './spec'

/** A word for people: "color-dodge" becomes "Color dodge". */
const word = (name: string) => name[0]!.toUpperCase() + name.slice(1).replaceAll('-', ' ')

/** What is drawn where a fitted picture leaves the reel empty. */
export const BACKGROUND_FILLS = [
  { value: 'reel', label: 'As the reel' },
  { value: 'none', label: 'Nothing' },
  { value: 'blur', label: 'Blur of itself' },
  { value: 'colour', label: 'Colour' },
  { value: 'pattern', label: 'Pattern' },
] as const

const px = (key: string, label: string, group: string, min: number, max: number, rest: Partial<Param> = {}) =>
  ({ kind: 'number', key, label, group, min, max, default: 0, unit: 'px', ...rest }) as Param
const percent = (key: string, label: string, group: string, initial: number, max = 100, rest: Partial<Param> = {}) =>
  ({ kind: 'number', key, label, group, min: 0, max, default: initial, unit: '%', digits: 1, ...rest }) as Param

/** Where a picture is put and how large; shared by clips and whole tracks. */
const PLACE: Param[] = [
  {
    kind: 'point',
    key: 'position',
    label: 'Position',
    group: 'Place',
    min: -32_768,
    max: 32_768,
    default: [0, 0],
    unit: 'px',
    digits: 1,
    hint: 'From the middle of the reel',
  },
  {
    kind: 'number',
    key: 'size',
    label: 'Size',
    group: 'Place',
    min: 0.1,
    max: 10_000,
    default: 100,
    unit: '%',
    digits: 1,
  },
  {
    kind: 'number',
    key: 'rotation',
    label: 'Turn',
    group: 'Place',
    min: -36_000,
    max: 36_000,
    default: 0,
    unit: '°',
    digits: 1,
    hint: 'Clockwise',
  },
]
const OPACITY = percent('opacity', 'Opacity', 'Mix', 100)

/**
 * Settings of every clip with a picture, in the order they are shown. Lengths are reel pixels, parts are percent.
 * Edges, shadow and reflection follow the picture's own outline, also when it is turned.
 */
export const CLIP_PARAMS: readonly Param[] = [
  ...PLACE,
  {
    kind: 'number',
    key: 'stretch',
    label: 'Stretch',
    group: 'Place',
    min: 5,
    max: 2000,
    default: 100,
    unit: '%',
    digits: 1,
    hint: 'Width against height',
  },
  {
    kind: 'point',
    key: 'anchor',
    label: 'Anchor',
    group: 'Place',
    min: -200,
    max: 300,
    default: [50, 50],
    unit: '%',
    digits: 1,
    hint: 'The point of the picture that it turns and grows about',
  },
  { kind: 'switch', key: 'flipHorizontal', label: 'Flip left to right', group: 'Place', default: false, fixed: true },
  { kind: 'switch', key: 'flipVertical', label: 'Flip upside down', group: 'Place', default: false, fixed: true },
  OPACITY,
  {
    kind: 'choice',
    key: 'blend',
    label: 'Blend',
    group: 'Mix',
    default: 'normal',
    fixed: true,
    options: BLEND_MODES.map((value) => ({ value, label: word(value) })),
  },
  percent('cropLeft', 'Left', 'Crop', 0),
  percent('cropRight', 'Right', 'Crop', 0),
  percent('cropTop', 'Top', 'Crop', 0),
  percent('cropBottom', 'Bottom', 'Crop', 0),
  px('cropFeather', 'Feather', 'Crop', 0, 1000, { hint: 'How far the edges fade out' }),
  px('cornerRadius', 'Corners', 'Edge', 0, 4000, { hint: 'Radius of rounded corners' }),
  px('border', 'Border', 'Edge', 0, 500, { digits: 1 } as Partial<Param>),
  { kind: 'colour', key: 'borderColour', needs: 'border', label: 'Border colour', group: 'Edge', default: '#f3ece2' },
  percent('shadow', 'Shadow', 'Shadow', 0),
  px('shadowDistance', 'Distance', 'Shadow', 0, 2000, { needs: 'shadow', default: 16 } as Partial<Param>),
  {
    kind: 'number',
    key: 'shadowAngle',
    needs: 'shadow',
    label: 'Direction',
    group: 'Shadow',
    min: -360,
    max: 360,
    default: 45,
    unit: '°',
    hint: 'Clockwise from the right',
  },
  px('shadowBlur', 'Softness', 'Shadow', 0, 500, { needs: 'shadow', default: 24 } as Partial<Param>),
  { kind: 'colour', key: 'shadowColour', needs: 'shadow', label: 'Shadow colour', group: 'Shadow', default: '#0b0810' },
  percent('reflection', 'Reflection', 'Reflection', 0),
  percent('reflectionLength', 'Length', 'Reflection', 40, 100, { needs: 'reflection' } as Partial<Param>),
  px('reflectionGap', 'Gap', 'Reflection', 0, 1000, { needs: 'reflection', default: 4 } as Partial<Param>),
  {
    kind: 'choice',
    key: 'backgroundFill',
    label: 'Empty space',
    group: 'Filling',
    default: 'reel',
    fixed: true,
    options: BACKGROUND_FILLS,
  },
  {
    kind: 'colour',
    key: 'backgroundFillColour',
    needs: 'backgroundFill',
    label: 'Colour',
    group: 'Filling',
    default: '#2a2335',
  },
  {
    kind: 'number',
    key: 'shutterAngle',
    label: 'Shutter angle',
    group: 'Motion blur',
    min: 0,
    max: 720,
    default: 0,
    unit: '°',
    hint: 'How much of a frame’s time a moving picture motionBlurs over; 180° is usual, 0 is sharp',
  },
  {
    kind: 'number',
    key: 'shutterSamples',
    needs: 'shutterAngle',
    label: 'Samples',
    group: 'Motion blur',
    min: 2,
    max: 64,
    default: 12,
    fixed: true,
  },
]

/** Settings of a whole track: they act on whatever plays on it. Keyframes are in reel time. */
export const TRACK_PARAMS: readonly Param[] = [...PLACE, OPACITY]

/** Settings of a picture that is played slower than it was filmed. */
export const TIME_PARAMS: readonly Param[] = [
  {
    kind: 'choice',
    key: 'slowMotion',
    label: 'Slow motion',
    group: 'Time',
    default: 'repeat',
    fixed: true,
    options: [
      { value: 'repeat', label: 'Repeat frames' },
      { value: 'blend', label: 'Blend frames' },
      { value: 'made', label: 'Make frames between' },
    ],
    hint: 'What is shown between two frames of the footage when it is slowed down',
  },
]

export const clipParamsSchema = paramsSchema([...CLIP_PARAMS, ...TIME_PARAMS, ...CLIP_SOUND_PARAMS])
export const trackParamsSchema = paramsSchema([...TRACK_PARAMS, ...TRACK_SOUND_PARAMS])
export const reelParamsSchema = paramsSchema(REEL_SOUND_PARAMS)

/** Settings of a clip at a moment. */
export interface ClipLook {
  position: Point
  size: number
  rotation: number
  stretch: number
  anchor: Point
  flipHorizontal: boolean
  flipVertical: boolean
  opacity: number
  blend: BlendMode
  cropLeft: number
  cropRight: number
  cropTop: number
  cropBottom: number
  cropFeather: number
  cornerRadius: number
  border: number
  borderColour: string
  shadow: number
  shadowDistance: number
  shadowAngle: number
  shadowBlur: number
  shadowColour: string
  reflection: number
  reflectionLength: number
  reflectionGap: number
  backgroundFill: (typeof BACKGROUND_FILLS)[number]['value']
  backgroundFillColour: string
  shutterAngle: number
  shutterSamples: number
}

/** All settings of a clip at a moment of its time. */
export function clipLook(params: Params, clipTime: number): ClipLook {
  return resolveParams(CLIP_PARAMS, params, clipTime) as unknown as ClipLook
}

/** Settings of a track at a moment of reel time. */
export function trackLook(params: Params, at: number): Pick<ClipLook, 'position' | 'size' | 'rotation' | 'opacity'> {
  return resolveParams(TRACK_PARAMS, params, at) as never
}
