import type { Fit } from '../document/reel'
import { fitMatrix } from '../evaluate/layerPlan'
import { isAnimated, type Animated, type Point } from './animated'
import { cellParams, fillWith, viewOf, widestView, type Cell } from './framing'
import { mapValues } from './keys'
import { scalePlace } from './rescale'
import type { Params } from './spec'

interface Size {
  width: number
  height: number
}

/** A picture in a reel whose frame changes its shape. */
export interface Reframed {
  params: Params
  fit: Fit
  /** Its size before and after: what is generated is as large as the frame. */
  before: Size
  after: Size
  from: Size
  to: Size
}

/** A little more than rounding leaves of a percent. */
const HAIR = 0.02

/**
 * Place, size and crop of a picture when its reel gets another shape. A picture that fills the frame with a part of
 * itself, standing still or moving over it, goes on doing so, with the same middle; one in a cell fills that cell of
 * the new frame.
 * @returns the settings that change, or `null` where the picture is placed in another way
 */
export function reframed(picture: Reframed): Params | null {
  const { params } = picture
  if (params.rotation || params.anchor !== undefined || params.stretch !== undefined) return null
  return inCell(picture) ?? filling(picture)
}

type Keys<T> = readonly { at: number; value: T }[]
const keysOf = <T>(value: Animated<T & (number | Point)>): Keys<T> =>
  (isAnimated(value) ? value.keys : [{ at: 0, value }]) as unknown as Keys<T>

/** A picture that covers the whole frame at each of its keyframes. */
function filling({ params, fit, before, after, from, to }: Reframed): Params | null {
  const { size, position } = params as { size?: Animated<number>; position?: Animated<Point> }
  if (size === undefined) return null
  const [sizes, places] = [keysOf<number>(size), keysOf<Point>(position ?? [0, 0])]
  const still = position === undefined || (!isAnimated(position) && !isAnimated(size))
  if (!still && (sizes.length !== places.length || sizes.some(({ at }, i) => at !== places[i]!.at))) return null
  const wide = (format: Size) => widestView(before, format)
  const views = sizes.map(({ value }, i) => viewOf(places[i]?.value ?? places[0]!.value, value, before, from, fit))
  const covers = views.every(({ x, y, width }) => {
    const height = (width * before.width * from.height) / (from.width * before.height)
    const inside = (middle: number, part: number) => middle - part / 2 > -HAIR && middle + part / 2 < 1 + HAIR
    return inside(x, width) && inside(y, height)
  })
  if (!covers) return null
  const next = views.map(({ x, y, width }) => {
    const w = Math.min(1, (width / wide(from)) * wide(to))
    const h = Math.min(1, (w * after.width * to.height) / (to.width * after.height))
    const within = (middle: number, part: number) => Math.min(Math.max(middle, part / 2), 1 - part / 2)
    return fillWith({ x: within(x, w), y: within(y, h), width: w }, after, to, fit)
  })
  const put = <T>(old: Animated<T & (number | Point)>, values: readonly T[]): Animated =>
    (isAnimated(old)
      ? { keys: old.keys.map(({ bend: _bend, ...key }, i) => ({ ...key, value: values[i] })) }
      : values[0]) as Animated
  return {
    size: put<number>(
      size,
      next.map((one) => one.size),
    ),
    position: put<Point>(
      position ?? (isAnimated(size) ? { keys: size.keys.map((key) => ({ ...key, value: [0, 0] as Point })) } : [0, 0]),
      next.map((one) => one.position),
    ),
  }
}

/** A picture in a cell: cropped, or with a cell's border and corners. It fills the same part of the new frame. */
function inCell({ params, fit, before, after, from, to }: Reframed): Params | null {
  const number = (key: string, initial: number) => {
    const value = params[key] ?? initial
    return typeof value === 'number' ? value : null
  }
  const size = number('size', 100)
  const crops = (['cropLeft', 'cropRight', 'cropTop', 'cropBottom'] as const).map((key) => number(key, 0))
  if (size === null || crops.some((crop) => crop === null)) return null
  const [left, right, top, bottom] = crops as [number, number, number, number]
  const framed = params.borderColour !== undefined && params.cornerRadius !== undefined
  if (left + right + top + bottom < 0.1 && !framed) return null
  const [sx, , , sy] = fitMatrix(before.width, before.height, from.width, from.height, fit)
  const [w, h] = [(before.width * sx * size) / 100, (before.height * sy * size) / 100]
  const position = (params.position ?? [0, 0]) as Animated<Point>
  const end = (isAnimated(position) ? position.keys.at(-1)!.value : position) as Point
  const cell: Cell = {
    x: (from.width / 2 + end[0] - w / 2 + (w * left) / 100) / from.width,
    y: (from.height / 2 + end[1] - h / 2 + (h * top) / 100) / from.height,
    width: (w * (100 - left - right)) / 100 / from.width,
    height: (h * (100 - top - bottom)) / 100 / from.height,
  }
  const pan = (first: number, second: number) => (first + second > 0.1 ? (first - second) / (first + second) : 0)
  const look = { gap: 0, cornerRadius: 0, border: 0, borderColour: '' }
  const laid = cellParams(cell, look, after, to, fit, [pan(left, right), pan(top, bottom)])
  const place = laid.position as unknown as Point
  const scaled = scalePlace(position, from, to)
  const last = (isAnimated(scaled) ? scaled.keys.at(-1)!.value : scaled) as Point
  const moved = mapValues(scaled, ([x, y]): Point => [x - last[0] + place[0], y - last[1] + place[1]])
  const { size: larger, cropLeft, cropRight, cropTop, cropBottom } = laid
  const set = { size: larger, cropLeft, cropRight, cropTop, cropBottom } as Params
  return { ...set, position: (isAnimated(position) ? moved : place) as Animated }
}
