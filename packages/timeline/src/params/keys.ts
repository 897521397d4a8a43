import { isAnimated, valueAt, type Animated, type Key, type Value } from './animated'
import type { Ease } from './ease'

/** The keyframe at a moment of clip time, if there is one within `hair` ticks. */
export function keyAt<T extends Value>(animated: Animated<T>, at: number, hair = 0): Key<T> | null {
  if (!isAnimated(animated)) return null
  return animated.keys.find((key) => Math.abs(key.at - at) <= hair) ?? null
}

/**
 * With a keyframe at `at` holding `value`: one that is there is given it, else one is put in, eased like its
 * neighbour.
 */
export function putKey<T extends Value>(animated: Animated<T>, at: number, value: T, ease?: Ease): Animated<T> {
  const keys = isAnimated(animated) ? animated.keys : []
  const old = keys.find((key) => key.at === at)
  const before = keys.filter((key) => key.at < at).at(-1)
  const fresh: Key<T> = { ...(old ?? {}), at, value, ease: ease ?? old?.ease ?? before?.ease ?? 'both' }
  return { keys: [...keys.filter((key) => key.at !== at), fresh].sort((a, b) => a.at - b.at) }
}

/** Without the keyframe at `at`; the last one to go leaves its value. */
export function removeKey<T extends Value>(animated: Animated<T>, at: number): Animated<T> {
  if (!isAnimated(animated)) return animated
  const keys = animated.keys.filter((key) => key.at !== at)
  return keys.length > 0 ? { keys } : valueAt(animated, at)
}

/** With the keyframe at `from` moved to `to`; one that is there already gives way to it. */
export function moveKey<T extends Value>(animated: Animated<T>, from: number, to: number): Animated<T> {
  const key = keyAt(animated, from)
  if (!key || !isAnimated(animated)) return animated
  const rest = animated.keys.filter((other) => other.at !== from && other.at !== to)
  return { keys: [...rest, { ...key, at: to }].sort((a, b) => a.at - b.at) }
}

/**
 * With several keyframes put elsewhere in time at once; ones that are there already and do not move give way.
 * @param to where a keyframe at `at` goes; clip time in whole ticks
 */
export function moveKeys<T extends Value>(
  animated: Animated<T>,
  moved: ReadonlySet<number>,
  to: (at: number) => number,
): Animated<T> {
  if (!isAnimated(animated)) return animated
  const places = new Map(animated.keys.filter((key) => moved.has(key.at)).map((key) => [to(key.at), key]))
  const rest = animated.keys.filter((key) => !moved.has(key.at) && !places.has(key.at))
  const keys = [...rest, ...[...places].map(([at, key]) => ({ ...key, at }))]
  return { keys: keys.sort((a, b) => a.at - b.at) }
}

/** Without several keyframes; when none is left the value at `now` stays. */
export function removeKeys<T extends Value>(
  animated: Animated<T>,
  gone: ReadonlySet<number>,
  now: number,
): Animated<T> {
  if (!isAnimated(animated)) return animated
  const keys = animated.keys.filter((key) => !gone.has(key.at))
  return keys.length > 0 ? { keys } : valueAt(animated, now)
}

/** With copies of keyframes laid in, the first of them at `at`; ones that are there give way. */
export function pasteKeys<T extends Value>(animated: Animated<T>, copied: readonly Key<T>[], at: number): Animated<T> {
  if (copied.length === 0) return animated
  const by = at - Math.min(...copied.map((key) => key.at))
  const fresh = copied.map((key) => ({ ...key, at: key.at + by }))
  const taken = new Set(fresh.map((key) => key.at))
  const old = isAnimated(animated) ? animated.keys.filter((key) => !taken.has(key.at)) : []
  return { keys: [...old, ...fresh].sort((a, b) => a.at - b.at) }
}

/** With another ease from the keyframe at `at` to the next. */
export function easeKey<T extends Value>(animated: Animated<T>, at: number, ease: Ease): Animated<T> {
  if (!isAnimated(animated)) return animated
  return { keys: animated.keys.map((key) => (key.at === at ? { ...key, ease } : key)) }
}

/** What a change of a value at a moment makes of it: a keyframe where it has any, else simply the new value. */
export function changeAt<T extends Value>(animated: Animated<T>, at: number, value: T): Animated<T> {
  return isAnimated(animated) ? putKey(animated, at, value) : value
}

/** Each value of a setting, keyframes and all, put through a function. */
export function mapValues<T extends Value>(animated: Animated<T>, change: (value: T) => T): Animated<T> {
  if (!isAnimated(animated)) return change(animated)
  return { keys: animated.keys.map((key) => ({ ...key, value: change(key.value) })) }
}

/** Moments of all keyframes of a bag of settings, each once, in order of time. */
export function keyTimes(params: Record<string, Animated | undefined>): number[] {
  const times = new Set<number>()
  for (const value of Object.values(params))
    if (value !== undefined && isAnimated(value)) for (const key of value.keys) times.add(key.at)
  return [...times].sort((a, b) => a - b)
}
