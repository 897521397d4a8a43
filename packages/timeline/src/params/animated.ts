import { bisector } from 'd3-array'
import { z } from 'zod'
import { colourSchema, signedTicksSchema } from '../document/values'
import { easeAt, easeSchema, type Ease } from './ease'

/** Most keyframes that one value holds. */
export const MAX_KEYS = 2000

/** Two numbers: across and down. */
export type Point = readonly [number, number]
/** What a parameter holds at one moment. */
export type Value = number | boolean | string | Point

/** A value at a moment of clip time, and how it goes on from there to the next keyframe. */
export interface Key<T extends Value = Value> {
  /** Clip time in ticks. */
  at: number
  value: T
  ease: Ease
  /** Points only: the path leaves along this and arrives along its opposite; absent, the path is straight here. */
  bend?: Point | undefined
}

/** A value that stays, or one with keyframes in rising order of time, at least one. */
export type Animated<T extends Value = Value> = T | { keys: Key<T>[] }

const finitePoint = z.tuple([z.number(), z.number()])

/** Schema of a value that may have keyframes; each key's value by the given schema. */
export function animatedSchema<S extends z.ZodType>(value: S) {
  const key = z.object({ at: signedTicksSchema, value, ease: easeSchema, bend: finitePoint.optional() })
  return z.union([
    value,
    z.object({
      keys: z
        .array(key)
        .min(1)
        .max(MAX_KEYS)
        .refine(
          (keys) => keys.every((k, i) => i === 0 || keys[i - 1]!.at < k.at),
          'keyframes must be in order of time',
        ),
    }),
  ])
}

/** Whether a value has keyframes. */
export function isAnimated<T extends Value>(value: Animated<T>): value is { keys: Key<T>[] } {
  return typeof value === 'object' && !Array.isArray(value) && 'keys' in value
}

const byTime = bisector((key: Key<Value>) => key.at).right

/**
 * A value at a moment of clip time. Before the first keyframe and after the last the nearest one holds. Numbers,
 * points and colours go smoothly; words and switches change at the keyframe.
 */
export function valueAt<T extends Value>(animated: Animated<T>, clipTime: number): T {
  if (!isAnimated(animated)) return animated
  const { keys } = animated
  if (clipTime <= keys[0]!.at) return keys[0]!.value
  const last = keys.at(-1)!
  if (clipTime >= last.at) return last.value
  const i = byTime(keys, clipTime) - 1
  const [a, b] = [keys[i]!, keys[i + 1]!]
  return between(a, b, easeAt(a.ease, (clipTime - a.at) / (b.at - a.at)))
}

function between<T extends Value>(a: Key<T>, b: Key<T>, t: number): T {
  const [from, to] = [a.value, b.value] as [Value, Value]
  if (typeof from === 'number' && typeof to === 'number') return (from + (to - from) * t) as T
  if (Array.isArray(from) && Array.isArray(to)) return along(a as Key<Point>, b as Key<Point>, t) as Value as T
  if (
    typeof from === 'string' &&
    typeof to === 'string' &&
    colourSchema.safeParse(from).success &&
    colourSchema.safeParse(to).success
  )
    return mixColours(from, to, t) as T
  return a.value
}

/** `#rrggbb` between two others, each channel straight. */
export function mixColours(from: string, to: string, t: number): string {
  const [a, b] = [Number.parseInt(from.slice(1), 16), Number.parseInt(to.slice(1), 16)]
  let mixed = 0
  for (const shift of [16, 8, 0]) {
    const [x, y] = [(a >> shift) & 255, (b >> shift) & 255]
    mixed |= Math.round(Math.min(255, Math.max(0, x + (y - x) * t))) << shift
  }
  return `#${mixed.toString(16).padStart(6, '0')}`
}

/** Steps in which a bent path is measured, so that travel along it is even. */
const STEPS = 64

/** The point a part `t` of the way from one keyframe's point to the next; along a bent path by its length. */
export function along(a: Key<Point>, b: Key<Point>, t: number): Point {
  const [from, to] = [a.value, b.value]
  if (!a.bend && !b.bend) return [from[0] + (to[0] - from[0]) * t, from[1] + (to[1] - from[1]) * t]
  const out = a.bend ?? [0, 0]
  const into = b.bend ?? [0, 0]
  const at = (s: number): Point => {
    const r = 1 - s
    const part = (p0: number, p1: number, p2: number, p3: number) =>
      r * r * r * p0 + 3 * r * r * s * p1 + 3 * r * s * s * p2 + s * s * s * p3
    return [
      part(from[0], from[0] + out[0], to[0] - into[0], to[0]),
      part(from[1], from[1] + out[1], to[1] - into[1], to[1]),
    ]
  }
  if (t <= 0 || t >= 1) return at(Math.min(Math.max(t, 0), 1))
  const lengths = [0]
  let before = at(0)
  for (let i = 1; i <= STEPS; i++) {
    const point = at(i / STEPS)
    const [dx, dy] = [point[0] - before[0], point[1] - before[1]]
    lengths.push(lengths[i - 1]! + Math.sqrt(dx * dx + dy * dy))
    before = point
  }
  const wanted = lengths[STEPS]! * t
  let i = 1
  while (i < STEPS && lengths[i]! < wanted) i++
  const step = lengths[i]! - lengths[i - 1]!
  return at((i - 1 + (step > 0 ? (wanted - lengths[i - 1]!) / step : 0)) / STEPS)
}
