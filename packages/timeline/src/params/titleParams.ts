import { paramsSchema, type Param } from './spec'

const number = (
  key: string,
  label: string,
  group: string,
  min: number,
  max: number,
  initial: number,
  unit: string,
  rest: Partial<Param> = {},
) => ({ kind: 'number', key, label, group, min, max, default: initial, unit, ...rest }) as Param
const colour = (key: string, label: string, group: string, initial: string, needs?: string): Param => ({
  kind: 'colour',
  key,
  label,
  group,
  default: initial,
  ...(needs ? { needs } : {}),
})
const choice = (key: string, label: string, group: string, words: Record<string, string>): Param => ({
  kind: 'choice',
  key,
  label,
  group,
  default: Object.keys(words)[0]!,
  fixed: true,
  options: Object.entries(words).map(([value, label]) => ({ value, label })),
})

/** Settings that a part of a title may have of its own. */
export const LETTER_PARAMS: readonly Param[] = [
  {
    kind: 'text',
    key: 'font',
    label: 'Font',
    group: 'Letters',
    default: 'Hanken Grotesk',
    maxLength: 130,
    fixed: true,
  },
  number('size', 'Size', 'Letters', 1, 2000, 96, 'px'),
  number('weight', 'Weight', 'Letters', 100, 900, 600, '', { step: 100, fixed: true } as Partial<Param>),
  { kind: 'switch', key: 'italic', label: 'Italic', group: 'Letters', default: false, fixed: true },
  { kind: 'switch', key: 'underline', label: 'Underline', group: 'Letters', default: false, fixed: true },
  number('spacing', 'Letter spacing', 'Letters', -100, 500, 0, 'px', { digits: 1 } as Partial<Param>),
  colour('colour', 'Colour', 'Letters', '#f3ece2'),
]

/** Settings of a whole title; lengths are reel pixels. */
export const TITLE_PARAMS: readonly Param[] = [
  ...LETTER_PARAMS,
  choice('align', 'Align', 'Lines', { center: 'Centre', left: 'Left', right: 'Right', justify: 'Both sides' }),
  choice('script', 'Reads', 'Lines', {
    auto: 'As its first letter does',
    leftToRight: 'From the left',
    rightToLeft: 'From the right',
  }),
  number('lineSpacing', 'Line spacing', 'Lines', 50, 400, 115, '%'),
  number('width', 'Width', 'Lines', 0, 8192, 0, 'px', {
    hint: 'Lines break at this width; 0 is as wide as the reel allows',
  } as Partial<Param>),
  choice('fill', 'Fill', 'Fill', { plain: 'Plain', gradient: 'Gradient' }),
  colour('colour2', 'To', 'Fill', '#ff9e5e', 'fill'),
  number('gradientAngle', 'Direction', 'Fill', -360, 360, 90, '°', { needs: 'fill' } as Partial<Param>),
  number('outline', 'Outline', 'Outline', 0, 200, 0, 'px', { digits: 1 } as Partial<Param>),
  colour('outlineColour', 'Colour', 'Outline', '#16131c', 'outline'),
  number('letterShadow', 'Shadow', 'Shadow', 0, 100, 0, '%'),
  number('shadowDistance', 'Distance', 'Shadow', 0, 500, 6, 'px', { needs: 'letterShadow' } as Partial<Param>),
  number('shadowAngle', 'Direction', 'Shadow', -360, 360, 60, '°', { needs: 'letterShadow' } as Partial<Param>),
  number('shadowBlur', 'Softness', 'Shadow', 0, 200, 8, 'px', { needs: 'letterShadow' } as Partial<Param>),
  colour('shadowColour', 'Colour', 'Shadow', '#0b0810', 'letterShadow'),
  number('glow', 'Glow', 'Glow', 0, 200, 0, 'px'),
  colour('glowColour', 'Colour', 'Glow', '#f6d06b', 'glow'),
  number('box', 'Box', 'Box', 0, 100, 0, '%', { hint: 'How solid the box behind the words is' } as Partial<Param>),
  colour('boxColour', 'Colour', 'Box', '#16131c', 'box'),
  number('boxPadding', 'Padding', 'Box', 0, 500, 24, 'px', { needs: 'box' } as Partial<Param>),
  number('boxCornerRadius', 'Corners', 'Box', 0, 500, 8, 'px', { needs: 'box' } as Partial<Param>),
  choice('boxEdge', 'Shape', 'Box', {
    all: 'Around the words',
    line: 'Line beneath',
    bar: 'Bar at the left',
    ring: 'Outline only',
  }),
  choice('travel', 'Travel', 'Travel', { none: 'Stays', roll: 'Rolls up', crawl: 'Crawls left' }),
]

export const titleStyleSchema = paramsSchema(TITLE_PARAMS)
