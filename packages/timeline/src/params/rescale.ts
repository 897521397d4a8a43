import type { Clip } from '../document/clip'
import { isAnimated, type Animated, type Point, type Value } from './animated'
import { CLIP_PARAMS } from './clipParams'
import { mapValues } from './keys'
import type { Param, Params } from './spec'
import { TITLE_PARAMS } from './titleParams'

interface Size {
  width: number
  height: number
}

/** Lengths in reel pixels among settings, without places, which go by both sides. */
const lengthsOf = (params: readonly Param[]) =>
  new Map(
    params.flatMap((param) => (param.kind === 'number' && param.unit === 'px' ? [[param.key, param] as const] : [])),
  )
const CLIP_LENGTHS = lengthsOf(CLIP_PARAMS)
const TITLE_LENGTHS = lengthsOf(TITLE_PARAMS)

/** Lengths times `factor`, the width of lines times `wide`, within what each may be. */
function scaleLengths<T extends object>(
  values: T,
  lengths: ReadonlyMap<string, Param>,
  factor: number,
  wide = factor,
): T {
  const scaled: Record<string, Animated> = { ...(values as Params) }
  for (const [key, value] of Object.entries(scaled)) {
    const param = lengths.get(key)
    if (param?.kind !== 'number') continue
    const by = key === 'width' ? wide : factor
    const within = (length: Value) =>
      Math.min(param.max, Math.max(param.min, Math.round((length as number) * by * 100) / 100))
    scaled[key] = mapValues(value as Animated<Value>, within) as Animated
  }
  return scaled as T
}

/** A place, or a path with its bends, from one frame's proportions to another's. */
export function scalePlace(position: Animated<Point>, from: Size, to: Size): Animated<Point> {
  const within = (value: number) => Math.min(32_768, Math.max(-32_768, value))
  const scale = ([x, y]: Point): Point => [within((x * to.width) / from.width), within((y * to.height) / from.height)]
  if (!isAnimated(position)) return scale(position)
  return {
    keys: position.keys.map((key) => ({
      ...key,
      value: scale(key.value),
      ...(key.bend ? { bend: scale(key.bend) } : {}),
    })),
  }
}

/**
 * What of a clip changes when its reel gets another frame: places keep their proportions, so that what sat in a corner
 * sits there still; letters, borders and other lengths go by the shorter side, so that they look as large as before.
 */
export function rescaleClip(clip: Clip, from: Size, to: Size): Partial<Clip> {
  const factor = Math.min(to.width, to.height) / Math.min(from.width, from.height)
  const { position } = clip.params as { position?: Animated<Point> }
  const params = scaleLengths(clip.params, CLIP_LENGTHS, factor)
  const patch: { params: Clip['params']; title?: unknown } = {
    params: position === undefined ? params : { ...params, position: scalePlace(position, from, to) as never },
  }
  if (clip.kind === 'title') {
    const style = scaleLengths(clip.title.style, TITLE_LENGTHS, factor, to.width / from.width)
    const runs = clip.title.runs.map((run) => ({ ...run, style: scaleLengths(run.style, TITLE_LENGTHS, factor) }))
    // A size that was never set is the default, and so is not in the bag: it has to be from now on.
    const size = TITLE_LENGTHS.get('size')
    if (factor !== 1 && size?.kind === 'number' && style.size === undefined)
      Object.assign(style, { size: Math.round(size.default * factor * 100) / 100 })
    patch.title = { ...clip.title, style, runs }
  }
  return patch as Partial<Clip>
}
