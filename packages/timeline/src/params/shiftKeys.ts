import { isAnimated, type Animated, type Value } from './animated'

/** Settings with all their keyframes later by so many ticks. */
export function shiftKeys<T extends object>(settings: T, by: number): T {
  const moved = Object.entries(settings).map(([name, value]) => {
    const animated = value as Animated<Value>
    return [name, isAnimated(animated) ? { keys: animated.keys.map((key) => ({ ...key, at: key.at + by })) } : value]
  })
  return Object.fromEntries(moved) as T
}
