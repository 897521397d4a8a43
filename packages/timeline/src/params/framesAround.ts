import type { Value } from './animated'

/** Effects that weigh the frames before and after one, and how many to each side while that is not set. */
export const FRAMES_AROUND: Readonly<Record<string, number>> = { steadyNoise: 2 }

/** Frames to each side that an effect weighs. @param settings those that differ from the defaults */
export function framesAround(kind: string, { around }: Readonly<Record<string, Value>>): number {
  if (!Object.hasOwn(FRAMES_AROUND, kind)) return 0
  return typeof around === 'number' ? around : FRAMES_AROUND[kind]!
}
