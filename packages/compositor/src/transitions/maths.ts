import { sinCosDegrees } from '@dusk/timeline'

// Arithmetic that is the same in every engine: frames must not depend on whose sine it was.

/** Sine of an angle in turns. */
export const sinTurn = (turns: number): number => sinCosDegrees(turns * 360)[0]
/** Cosine of an angle in turns. */
export const cosTurn = (turns: number): number => sinCosDegrees(turns * 360)[1]

/**
 * Direction of a vector in turns, 0 to 1, clockwise on screen from straight up. Polynomial of degree nine for the arc
 * tangent on 0…1 (Abramowitz and Stegun 4.4.49, error < 2·10⁻⁵ turns).
 */
export function turnOf(x: number, y: number): number {
  if (x === 0 && y === 0) return 0
  const [ax, ay] = [Math.abs(x), Math.abs(y)]
  const ratio = ax < ay ? ax / ay : ay / ax
  const s = ratio * ratio
  const arc =
    (ratio * (0.99986601 + s * (-0.3302995 + s * (0.180141 + s * (-0.085133 + s * 0.0208351))))) / 6.283185307179586
  // Angle from the vertical, in the quarter of the absolute values.
  const quarter = ax < ay ? arc : 0.25 - arc
  if (y <= 0) return x >= 0 ? quarter : 1 - quarter
  return x >= 0 ? 0.5 - quarter : 0.5 + quarter
}

/** A whole number mixed into another that looks random, 0 to 1 (finaliser of MurmurHash3, public domain). */
export function hash(a: number, b = 0, seed = 0): number {
  let h = (Math.imul(a | 0, 0x27d4eb2d) ^ Math.imul(b | 0, 0x165667b1) ^ Math.imul(seed | 0, 0x9e3779b1)) | 0
  h = Math.imul(h ^ (h >>> 16), 0x85ebca6b)
  h = Math.imul(h ^ (h >>> 13), 0xc2b2ae35)
  return ((h ^ (h >>> 16)) >>> 0) / 4_294_967_296
}

/** Smooth noise on a grid of whole numbers, 0 to 1. */
export function noise(x: number, y: number, seed = 0): number {
  const [ix, iy] = [Math.floor(x), Math.floor(y)]
  const ease = (t: number) => t * t * (3 - 2 * t)
  const [fx, fy] = [ease(x - ix), ease(y - iy)]
  const top = hash(ix, iy, seed) + (hash(ix + 1, iy, seed) - hash(ix, iy, seed)) * fx
  const bottom = hash(ix, iy + 1, seed) + (hash(ix + 1, iy + 1, seed) - hash(ix, iy + 1, seed)) * fx
  return top + (bottom - top) * fy
}

/** Noise of several sizes laid over each other, 0 to 1. */
export function clouds(x: number, y: number, seed = 0): number {
  return (noise(x, y, seed) * 4 + noise(x * 2, y * 2, seed + 1) * 2 + noise(x * 4, y * 4, seed + 2)) / 7
}

/** Held within 0 and 1. */
export const unit = (value: number): number => Math.min(1, Math.max(0, value))
/** From 0 to 1 and gently at both ends. */
export const smooth = (t: number): number => unit(t) * unit(t) * (3 - 2 * unit(t))
/** 0 at both ends, 1 in the middle. */
export const hump = (t: number): number => 1 - Math.abs(2 * unit(t) - 1)
/** A whole number of steps of `t` that goes from 0 to 1. */
export const part = (t: number, from: number, to: number): number => unit((t - from) / (to - from))
