import { EASES, multiply, rotation, scaling, translation, type Matrix, type Param, type Value } from '@dusk/timeline'
import type { Shape } from './maps'
import type { Stage, WipeLook } from './stage'

/** Families of transitions, in the order they are shown. */
export const FAMILIES = {
  dissolves: 'Dissolves',
  dips: 'Dips',
  wipes: 'Wipes',
  slides: 'Slides',
  zooms: 'Zooms and spins',
  lights: 'Blur and light',
  folds: 'Folds and tiles',
  glitches: 'Glitches',
} as const
export type Family = keyof typeof FAMILIES

/** Settings at a moment, filled up with defaults and held within their ranges. */
export type Settings = Record<string, Value>

/** A way to get from one picture to another. */
export interface TransitionKind {
  id: string
  name: string
  family: Family
  /** A sentence that says what is seen. */
  hint: string
  params: readonly Param[]
  /** Where between 0 and 1 it is fullest, such as all of a colour: one frame shows just that, whatever their count. */
  peak?: number
  /** Draws onto `stage.out`, which is empty. `t` goes from 0 (all of `from`) to 1 (all of `to`), eased. */
  draw(stage: Stage, t: number, settings: Settings): void
}

const EASE: Param = {
  kind: 'choice',
  key: 'ease',
  label: 'Ease',
  default: 'both',
  fixed: true,
  // What stays and then jumps would be a cut.
  options: EASES.filter(({ value }) => value !== 'hold'),
}

/** Ties a transition together; every one can be eased. */
export function defineTransition(
  kind: Omit<TransitionKind, 'params'> & { params?: readonly Param[]; ease?: string },
): TransitionKind {
  const { ease = 'linear', params = [], ...rest } = kind
  return { ...rest, params: [...params, { ...EASE, default: ease } as Param] }
}

const choice = (
  key: string,
  label: string,
  words: Record<string, string>,
  initial = Object.keys(words)[0]!,
): Param => ({
  kind: 'choice',
  key,
  label,
  default: initial,
  fixed: true,
  options: Object.entries(words).map(([value, text]) => ({ value, label: text })),
})

/** The way a change travels: four sides. */
export const direction4 = (initial = 'left'): Param =>
  choice('direction', 'Direction', { left: 'Left', right: 'Right', up: 'Up', down: 'Down' }, initial)
/** The way a change travels: sides and corners. */
export const direction8 = (initial = 'right'): Param =>
  choice(
    'direction',
    'Direction',
    {
      left: 'Left',
      right: 'Right',
      up: 'Up',
      down: 'Down',
      upLeft: 'Up left',
      upRight: 'Up right',
      downLeft: 'Down left',
      downRight: 'Down right',
    },
    initial,
  )
export const axis = (initial = 'across'): Param =>
  choice('axis', 'Axis', { across: 'Across', down: 'Up and down' }, initial)
export const way = (): Param => choice('way', 'Way', { clockwise: 'Clockwise', counter: 'Counter-clockwise' })
export const inOut = (initial = 'out'): Param =>
  choice('way', 'Way', { out: 'From the middle', in: 'To the middle' }, initial)
export const corner = (): Param =>
  choice('corner', 'Corner', {
    upRight: 'Top right',
    upLeft: 'Top left',
    downRight: 'Bottom right',
    downLeft: 'Bottom left',
  })
export const twoWays = (): Param => choice('direction', 'Direction', { left: 'Left', right: 'Right' })
export const softness = (initial: number): Param => ({
  kind: 'number',
  key: 'softness',
  label: 'Softness',
  min: 0,
  max: 100,
  default: initial,
  unit: '%',
})
export const colour = (initial: string, label = 'Colour'): Param => ({
  kind: 'colour',
  key: 'colour',
  label,
  default: initial,
})
export const number = (key: string, label: string, min: number, max: number, initial: number, unit = ''): Param => ({
  kind: 'number',
  key,
  label,
  min,
  max,
  default: initial,
  unit,
})
export const seed = (): Param => ({
  kind: 'number',
  key: 'seed',
  label: 'Variation',
  min: 0,
  max: 999,
  default: 1,
  fixed: true,
})
/** A coloured line on the border of a wipe. */
export const edgeParams = (): Param[] => [
  { kind: 'number', key: 'edge', label: 'Edge', min: 0, max: 100, default: 0, unit: '%' },
  { kind: 'colour', key: 'edgeColour', label: 'Edge colour', default: '#f6d06b' },
]

/** A wipe by a shape, which may depend on settings. */
export function shapeWipe(kind: {
  id: string
  name: string
  hint: string
  family?: Family
  params?: readonly Param[]
  soft?: number
  ease?: string
  shape: (settings: Settings) => Shape
}): TransitionKind {
  const { soft = 2, family = 'wipes', params = [], shape, ...rest } = kind
  return defineTransition({
    ...rest,
    family,
    params: [...params, softness(soft), ...edgeParams()],
    draw(stage, t, settings) {
      const key = [kind.id, ...params.map((param) => String(settings[param.key]))].join(' ')
      stage.wipe(key, shape(settings), t, settings as WipeLook)
    },
  })
}

/** Unit vector of a direction, y downwards. */
export function vectorOf(direction: Value | undefined): [number, number] {
  const name = String(direction).toLowerCase()
  return [
    name.includes('left') ? -1 : name.includes('right') ? 1 : 0,
    name.includes('up') ? -1 : name.includes('down') ? 1 : 0,
  ]
}

/** Moves by pixels. */
export const moved = (x: number, y: number): Matrix => translation(x, y)

/** Sized and turned (degrees) about a point given as parts of the frame. */
export function about(stage: Stage, x: number, y: number, scaleX: number, scaleY = scaleX, degrees = 0): Matrix {
  const [cx, cy] = [stage.width * x, stage.height * y]
  const inner = degrees === 0 ? scaling(scaleX, scaleY) : multiply(rotation(degrees), scaling(scaleX, scaleY))
  return multiply(multiply(translation(cx, cy), inner), translation(-cx, -cy))
}
