import {
  CLIP_PARAMS,
  isAnimated,
  TITLE_PARAMS,
  valueAt,
  type Animated,
  type Clip,
  type Key,
  type Param,
  type Point,
  type Value,
} from '@dusk/timeline'

/** A setting of a clip that has keyframes. */
export interface AnimatedParam {
  param: Param
  value: { keys: Key[] }
  /** Whether it belongs to a title's look rather than to the clip. */
  ofTitle: boolean
}

/** Every setting of a clip that has keyframes, in the order of the details. */
export function animatedParams(clip: Clip): AnimatedParam[] {
  const found: AnimatedParam[] = []
  const look = (params: readonly Param[], values: Record<string, Animated | undefined>, ofTitle: boolean) => {
    for (const param of params) {
      const value = values[param.key]
      if (value !== undefined && isAnimated(value)) found.push({ param, value, ofTitle })
    }
  }
  look(CLIP_PARAMS, clip.params, false)
  if (clip.kind === 'title') look(TITLE_PARAMS, clip.title.style, true)
  return found
}

/** A value's one or two numbers, for drawing it; none for words, switches and colours. */
export function numbersOf(value: Value): number[] {
  if (typeof value === 'number') return [value]
  return Array.isArray(value) ? [...(value as Point)] : []
}

/** Least and greatest number that a value takes between two moments, its overshoots included. */
export function rangeOf(value: { keys: Key[] }, from: number, to: number): [number, number] {
  const all: number[] = []
  for (let i = 0; i <= 200; i++) all.push(...numbersOf(valueAt(value, from + ((to - from) * i) / 200)))
  for (const key of value.keys) all.push(...numbersOf(key.value))
  const [low, high] = [Math.min(...all), Math.max(...all)]
  // A value that does not change still gets a line in the middle.
  return high - low < 1e-9 ? [low - 1, high + 1] : [low, high]
}
